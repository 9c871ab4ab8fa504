import { useKeys } from "@/ui/useKeys";

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
  const { inDialog = false, fieldsUndo = false } = where ?? {};
  useKeys((event, at) => {
    if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
    if (Boolean(at?.closest("[role=dialog], [role=alertdialog]")) !== inDialog) return;
    const key = event.key.toLowerCase();
    if (key === "s") return does.save;
    if (key !== "z" && key !== "y") return;
    if (at?.closest(fieldsUndo ? FIELDS : OWN_HISTORY)) return;
    return key === "y" || event.shiftKey ? does.redo : does.undo;
  }, where !== null);
}
