import { useState } from "react";
import { confirmSecondFactor, type SecondFactor } from "@/api/account";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { CopyText } from "@/components/CopyText";
import { FormError } from "@/components/FormError";
import { PasswordField } from "@/components/PasswordField";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

/** Shows the secret for an app, asks for the first code, then shows the recovery codes once. */
export function ConfirmSecondFactor({ begun, onClose }: { begun: SecondFactor; onClose: () => void }) {
  const [code, setCode] = useState("");
  const [password, setPassword] = useState("");
  const confirming = useChange(() => confirmSecondFactor({ secret: begun.secret, code, password }));
  const closing = useChange(async () => {}, { refresh: [keys.account()], onDone: onClose });
  if (confirming.data)
    return (
      <Dialog
        open
        onOpenChange={() => closing.mutate()}
        title="Keep these codes"
        description="Each signs you in once when you do not have your phone. They are shown only now."
      >
        <ul className="grid grid-cols-2 gap-1 rounded-lg bg-sunk p-3 font-mono">
          {confirming.data.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
        <div className="mt-3">
          <CopyText label="Recovery codes" text={confirming.data.join(" ")} />
        </div>
        <div className="mt-4 flex justify-end">
          <Button look="primary" onClick={() => closing.mutate()}>
            I have kept them
          </Button>
        </div>
      </Dialog>
    );
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Second factor"
      description="Show this picture to an app for sign-in codes, or type the secret there. Then type the code that it shows."
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          confirming.mutate();
        }}
      >
        <img src={begun.picture} alt="QR code of the secret" className="mx-auto size-44" />
        <CopyText label="Secret" text={begun.secret} />
        <Field label="Code">
          <input
            className={inputLook}
            value={code}
            required
            inputMode="numeric"
            autoComplete="one-time-code"
            onChange={(event) => setCode(event.target.value)}
          />
        </Field>
        <PasswordField
          label="Present password"
          error={faultAt(confirming.error, "password")}
          value={password}
          onChange={setPassword}
        />
        <FormError error={confirming.error} fields={["password"]} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" busy={confirming.isPending}>
            Switch on
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
