import { useState } from "react";
import { changePassword } from "@/api/account";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Part } from "@/components/Part";
import { PasswordField } from "@/components/PasswordField";
import { Button } from "@/ui/Button";
import { useTell } from "@/ui/Toasts";

export function Password() {
  const tell = useTell();
  const [old, setOld] = useState("");
  const [password, setPassword] = useState("");
  const changing = useChange(() => changePassword({ old, password }), {
    refresh: [keys.tokens()],
    onDone: () => {
      setOld("");
      setPassword("");
      tell("The password is changed. All other sessions and API tokens have ended.");
    },
  });
  return (
    <Part title="Password">
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          changing.mutate();
        }}
      >
        <PasswordField
          label="Present password"
          error={faultAt(changing.error, "old")}
          value={old}
          onChange={setOld}
        />
        <PasswordField
          label="New password"
          hint="At least eight characters. All other sessions and API tokens end."
          error={faultAt(changing.error, "password")}
          value={password}
          isNew
          onChange={setPassword}
        />
        <FormError error={changing.error} fields={["old", "password"]} />
        <Button type="submit" busy={changing.isPending}>
          Change the password
        </Button>
      </form>
    </Part>
  );
}
