import { useState } from "react";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

interface NoteDialogProps {
  revision: number;
  busy: boolean;
  onSave: (note: string) => void;
  onClose: () => void;
}

/** Saves rules with a note for readers of the revisions. */
export function NoteDialog({ revision, busy, onSave, onClose }: NoteDialogProps) {
  const [note, setNote] = useState("");
  return (
    <Dialog open onOpenChange={onClose} title={`Save as revision ${revision}`}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          onSave(note.trim());
        }}
      >
        <Field label="Note" hint="What you changed, and why. The list of revisions shows it.">
          <input
            value={note}
            maxLength={300}
            className={inputLook}
            onChange={(event) => setNote(event.target.value)}
          />
        </Field>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" busy={busy}>
            Save
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
