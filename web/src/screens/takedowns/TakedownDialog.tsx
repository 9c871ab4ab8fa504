import { useState } from "react";
import { keys } from "@/api/keys";
import type { Takedown, TakedownAsk } from "@/api/takedowns";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";

interface TakedownDialogProps {
  blog: string;
  title: string;
  text: string;
  onTakeDown: (ask: TakedownAsk) => Promise<Takedown>;
  onClose: () => void;
  onDone: () => void;
}

/** Withdraws posts on request, with a record of who asked and why. */
export function TakedownDialog({ blog, title, text, onTakeDown, onClose, onDone }: TakedownDialogProps) {
  const tell = useTell();
  const [askedBy, setAskedBy] = useState("");
  const [reason, setReason] = useState("");
  const taking = useChange(() => onTakeDown({ asked_by: askedBy.trim(), reason: reason.trim() }), {
    refresh: [keys.posts(blog), keys.post(blog), keys.sources(blog), keys.source(blog), keys.takedowns(blog)],
    onDone: ({ withdrawn }) => {
      tell(`${plural(withdrawn.length, "post")} withdrawn. The record stands in Settings, Takedowns.`);
      onDone();
    },
  });
  return (
    <Dialog open onOpenChange={onClose} title={title} description={text}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          taking.mutate();
        }}
      >
        <Field label="Who asks for it">
          <input
            className={inputLook}
            value={askedBy}
            required
            maxLength={300}
            onChange={(event) => setAskedBy(event.target.value)}
          />
        </Field>
        <Field label="Why" hint="Stands in the record.">
          <textarea
            rows={3}
            className={inputLook}
            value={reason}
            maxLength={2000}
            onChange={(event) => setReason(event.target.value)}
          />
        </Field>
        <FormError error={taking.error} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="danger" busy={taking.isPending} disabled={!askedBy.trim()}>
            Withdraw and block
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
