import { useState } from "react";
import { type Account, beginSecondFactor, switchOffSecondFactor } from "@/api/account";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Part } from "@/components/Part";
import { PasswordField } from "@/components/PasswordField";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { ConfirmSecondFactor } from "./ConfirmSecondFactor";

/** The second factor of the sign-in. */
export function SecondFactorPart({ account }: { account: Account }) {
  const [password, setPassword] = useState("");
  const beginning = useChange(beginSecondFactor);
  const ending = useChange(() => switchOffSecondFactor(password), {
    refresh: [keys.account()],
    onDone: () => setPassword(""),
  });
  if (!account.second_factor)
    return (
      <Part
        title="Second factor"
        text="Asks at each sign-in for a code that an app on your phone shows. Whoever learns your password then still cannot get in."
      >
        <FormError error={beginning.error} />
        <Button busy={beginning.isPending} onClick={() => beginning.mutate()}>
          Switch on
        </Button>
        {beginning.data && <ConfirmSecondFactor begun={beginning.data} onClose={beginning.reset} />}
      </Part>
    );
  return (
    <Part
      title="Second factor"
      text={`On. ${plural(account.recovery_codes, "recovery code")} left: each signs you in once without the app.`}
    >
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          ending.mutate();
        }}
      >
        <PasswordField
          label="Present password"
          error={faultAt(ending.error, "password")}
          value={password}
          onChange={setPassword}
        />
        <Button type="submit" look="danger" busy={ending.isPending}>
          Switch off
        </Button>
      </form>
      <FormError error={ending.error} fields={["password"]} />
    </Part>
  );
}
