import { Redo2, Undo2 } from "lucide-react";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import type { Edited } from "./useEdited";
import { useEditKeys, type Where } from "./useEditKeys";

interface SaveButtonsProps<T> {
  edited: Edited<T>;
  /** What is edited: “the post”. */
  what: string;
  label?: string;
  /** Whether the value can be saved as it is. */
  valid?: boolean;
  /** Saves after a check of its own. */
  onSave?: () => void;
  /** Whether it is not on the server yet, so that it can be saved as it was proposed. */
  isNew?: boolean;
  /** Where the keys act: Ctrl+S does what the button does, when it does it. Nowhere by default. */
  keys?: Where | null;
}

/** Keys that act anywhere on a screen. */
export const ON_SCREEN: Where = {};

/** Undo, redo, giving up, and saving, for a document being edited. */
export function SaveButtons<T>({
  edited,
  what,
  label = "Save",
  valid = true,
  isNew = false,
  keys = null,
  onSave = () => void edited.save(),
}: SaveButtonsProps<T>) {
  const { changed, saving, conflict } = edited;
  const sending = saving.state === "sending";
  const able = (changed || isNew) && valid && conflict.theirs === null;
  useEditKeys({ undo: edited.undo, redo: edited.redo, save: () => able && onSave() }, keys);
  return (
    <>
      <span role="status" className="text-xs font-medium whitespace-nowrap text-plum">
        {sending ? "saving…" : changed ? "not saved" : ""}
      </span>
      {(edited.canUndo || edited.canRedo) && (
        <>
          <Button aria-label="Undo" title="Undo (Ctrl+Z)" disabled={!edited.canUndo} onClick={edited.undo}>
            <Undo2 size={14} aria-hidden="true" />
          </Button>
          <Button
            aria-label="Redo"
            title="Redo (Ctrl+Shift+Z)"
            disabled={!edited.canRedo}
            onClick={edited.redo}
          >
            <Redo2 size={14} aria-hidden="true" />
          </Button>
        </>
      )}
      {changed && (
        <Confirm
          trigger={<Button>Undo all</Button>}
          title="Undo all edits?"
          text={`What you changed goes, and its draft with it. ${what.charAt(0).toUpperCase()}${what.slice(1)} stays as it was saved. Undo brings your edits back while this page is open.`}
          action="Undo all"
          onConfirm={edited.giveUp}
        />
      )}
      <Button
        look={changed || isNew ? "primary" : "plain"}
        busy={sending}
        disabled={!able}
        title="Ctrl+S"
        onClick={onSave}
      >
        {label}
      </Button>
    </>
  );
}
