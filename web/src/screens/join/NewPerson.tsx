import { useState } from "react";
import { Link } from "react-router";
import { faultAt } from "@/api/client";
import { FormError } from "@/components/FormError";
import { PasswordField } from "@/components/PasswordField";
import { Button } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";

interface NewPersonProps {
  email: string;
  error: Error | null;
  busy: boolean;
  onDone: (who: { name: string; full_name: string; password: string }) => void;
}

/** The account form of a new person. */
export function NewPerson({ email, error, busy, onDone }: NewPersonProps) {
  const [who, setWho] = useState({ name: "", full_name: "", password: "" });
  const set = (part: Partial<typeof who>) => setWho({ ...who, ...part });
  return (
    <form
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        onDone(who);
      }}
    >
      <Field label="Your name" hint="How others see you.">
        <input
          className={inputLook}
          value={who.full_name}
          required
          maxLength={150}
          autoComplete="name"
          onChange={(event) => set({ full_name: event.target.value })}
        />
      </Field>
      <Field
        label="Name for signing in"
        hint={`Letters, digits and . _ - + @. Messages go to ${email}.`}
        error={faultAt(error, "name")}
      >
        <input
          className={inputLook}
          value={who.name}
          required
          maxLength={150}
          autoComplete="username"
          onChange={(event) => set({ name: event.target.value })}
        />
      </Field>
      <PasswordField
        label="Password"
        hint="At least eight characters."
        error={faultAt(error, "password")}
        value={who.password}
        isNew
        onChange={(password) => set({ password })}
      />
      <FormError error={error} fields={["name", "password"]} />
      <div className="flex items-center gap-4">
        <Button type="submit" look="primary" busy={busy}>
          Join
        </Button>
        <Link className="text-ink2 underline" to="/">
          I have a sign-in already
        </Link>
      </div>
    </form>
  );
}
