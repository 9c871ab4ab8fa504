import { useState } from "react";
import { type Account, changeAccount } from "@/api/account";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Part } from "@/components/Part";
import { PasswordField } from "@/components/PasswordField";
import { Button } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";

export function Profile({ account }: { account: Account }) {
  const tell = useTell();
  const [name, setName] = useState(account.full_name);
  const [email, setEmail] = useState(account.email);
  const [password, setPassword] = useState("");
  const moved = email.trim() !== account.email;
  const saving = useChange(() => changeAccount({ full_name: name, email, password: moved ? password : "" }), {
    refresh: [keys.account(), keys.session(), keys.notices()],
    onDone: () => {
      setPassword("");
      tell("Saved.");
    },
  });
  return (
    <Part title="Name and mail">
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          saving.mutate();
        }}
      >
        <Field label="Name" hint="How others see you.">
          <input
            className={inputLook}
            value={name}
            maxLength={150}
            autoComplete="name"
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
        <Field
          label="Mail address"
          hint="Messages go there, and the link for a new password."
          error={faultAt(saving.error, "email")}
        >
          <input
            className={inputLook}
            value={email}
            maxLength={254}
            autoComplete="email"
            onChange={(event) => setEmail(event.target.value)}
          />
        </Field>
        {moved && (
          <PasswordField
            label="Present password"
            hint="Needed to change the address. The old address gets a mail about it."
            error={faultAt(saving.error, "password")}
            value={password}
            onChange={setPassword}
          />
        )}
        <FormError error={saving.error} fields={["email", "password"]} />
        <Button type="submit" look="primary" busy={saving.isPending}>
          Save
        </Button>
      </form>
    </Part>
  );
}
