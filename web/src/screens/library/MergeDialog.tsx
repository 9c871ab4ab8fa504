import { useState } from "react";
import type { Name, NameKind } from "@/api/names";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";
import { KINDS } from "./kinds";

interface MergeDialogProps {
  kind: NameKind;
  row: Name;
  others: readonly Name[];
  onClose: () => void;
  onChosen: (into: number) => void;
}

/** Merges two names after saying what will happen, since it cannot be undone. */
export function MergeDialog({ kind, row, others, onClose, onChosen }: MergeDialogProps) {
  const [into, setInto] = useState("");
  const chosen = others.find(({ id }) => String(id) === into);
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`Merge “${row.name}” into another ${KINDS[kind].one}`}
      description={
        chosen
          ? `${plural(row.posts, "post")} of “${row.name}” will have “${chosen.name}” instead, and so will posts of rules that name “${row.name}”. It cannot be taken back.`
          : "Its posts follow, and so do rules that name it."
      }
    >
      <Field label="The one that stays">
        <select className={inputLook} value={into} onChange={(event) => setInto(event.target.value)}>
          <option value="">Choose…</option>
          {others.map((other) => (
            <option key={other.id} value={other.id}>
              {other.name} ({plural(other.posts, "post")})
            </option>
          ))}
        </select>
      </Field>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          look="danger"
          disabled={!chosen}
          onClick={() => {
            if (chosen) onChosen(chosen.id);
            onClose();
          }}
        >
          Merge
        </Button>
      </div>
    </Dialog>
  );
}
