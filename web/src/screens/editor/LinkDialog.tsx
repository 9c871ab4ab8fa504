import { useState } from "react";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

interface LinkDialogProps {
  address: string;
  onClose: () => void;
  /** An empty address removes the link. */
  onChosen: (address: string) => void;
}

const ADDRESS = /^(https?:\/\/|mailto:|\/)\S+$/;

/** Asks where a link leads. */
export function LinkDialog({ address, onClose, onChosen }: LinkDialogProps) {
  const [text, setText] = useState(address);
  const clean = text.trim();
  const fits = ADDRESS.test(clean);
  return (
    <Dialog open onOpenChange={onClose} title="Link">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (fits) onChosen(clean);
        }}
      >
        <Field
          label="Address"
          error={clean && !fits ? "An address begins with https://, http:// or mailto:" : undefined}
        >
          <input className={inputLook} value={text} onChange={(event) => setText(event.target.value)} />
        </Field>
        <div className="mt-4 flex justify-end gap-2">
          {address && <Button onClick={() => onChosen("")}>Take the link off</Button>}
          <Button type="submit" look="primary" disabled={!fits}>
            Link
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
