import { useEffect, useRef } from "react";

interface EditKeys {
  undo: () => void;
  redo: () => void;
  save: () => unknown;
}

/** Text with a history of its own, which undoes itself. */
const OWN_HISTORY = "[contenteditable=true]";

const FIELDS = `input, textarea, ${OWN_HISTORY}`;

export interface Where {
  /** Whether the document is edited in a dialog. Other dialogs keep their own keys. */
  inDialog?: boolean;
  /** Whether fields hold text that is not in the document yet, which they undo themselves. */
  fieldsUndo?: boolean;
}

/** Ctrl+S saves, Ctrl+Z undoes, Ctrl+Shift+Z and Ctrl+Y redo. Null leaves the keys to others. */
export function useEditKeys(does: EditKeys, where: Where | null) {
  const latest = useRef(does);
  latest.current = does;
  const on = where !== null;
  const { inDialog = false, fieldsUndo = false } = where ?? {};
  useEffect(() => {
    if (!on) return;
    function onKey(event: KeyboardEvent) {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
      const at = event.target instanceof HTMLElement ? event.target : null;
      if (Boolean(at?.closest("[role=dialog], [role=alertdialog]")) !== inDialog) return;
      const key = event.key.toLowerCase();
      const { save, undo, redo } = latest.current;
      const act = key === "s" ? save : key === "y" || (key === "z" && event.shiftKey) ? redo : undo;
      if (key !== "s" && key !== "z" && key !== "y") return;
      if (key !== "s" && at?.closest(fieldsUndo ? FIELDS : OWN_HISTORY)) return;
      event.preventDefault();
      act();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [on, inDialog, fieldsUndo]);
}
