import { useState } from "react";
import { askForReset } from "@/api/account";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

/** Asks for a reset link. */
export function ForgotDialog({ onClose }: { onClose: () => void }) {
  const [email, setEmail] = useState("");
  const asking = useChange(() => askForReset(email));
  if (asking.isSuccess)
    return (
      <Dialog
        open
        onOpenChange={onClose}
        title="Look into your mail"
        description={`If somebody here has the address ${email}, a link for a new password is on its way. It works for a day.`}
      >
        <div className="flex justify-end">
          <Button look="primary" onClick={onClose}>
            Done
          </Button>
        </div>
      </Dialog>
    );
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Forgot your password?"
      description="A link for a new one is sent to your mail address."
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          event.stopPropagation();
          asking.mutate();
        }}
      >
        <Field label="Mail address">
          <input
            type="email"
            className={inputLook}
            value={email}
            required
            autoComplete="email"
            onChange={(event) => setEmail(event.target.value)}
          />
        </Field>
        <FormError error={asking.error} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" busy={asking.isPending}>
            Send the link
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
