import { useState } from "react";
import { Link, useParams } from "react-router";
import { resetPassword } from "@/api/account";
import { faultAt } from "@/api/client";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { PasswordField } from "@/components/PasswordField";
import { Button, buttonLook } from "@/ui/Button";
import { Entrance } from "./Entrance";

/** Sets a new password by a mailed link. */
export default function Reset() {
  const { person = "", token = "" } = useParams();
  const [password, setPassword] = useState("");
  const setting = useChange(() => resetPassword({ person, token, password }));
  if (setting.isSuccess)
    return (
      <Entrance title="The password is set">
        <p className="mb-4 text-ink2">All sessions have ended. Sign in with the new password.</p>
        <Link className={buttonLook("primary")} to="/">
          Sign in
        </Link>
      </Entrance>
    );
  return (
    <Entrance title="Set a new password">
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          setting.mutate();
        }}
      >
        <PasswordField
          label="New password"
          hint="At least eight characters."
          error={faultAt(setting.error, "password")}
          value={password}
          isNew
          onChange={setPassword}
        />
        <FormError error={setting.error} fields={["password"]} />
        <div className="flex flex-wrap items-center gap-3">
          <Button type="submit" look="primary" busy={setting.isPending}>
            Set the password
          </Button>
          {setting.error && (
            <Link className="text-ink2 underline hover:text-ink" to="/">
              Ask for another link at the sign-in
            </Link>
          )}
        </div>
      </form>
    </Entrance>
  );
}
