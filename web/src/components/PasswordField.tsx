import type { ReactNode } from "react";
import { Field, inputLook } from "@/ui/Field";

interface PasswordFieldProps {
  label: string;
  hint?: ReactNode;
  error?: string | undefined;
  value: string;
  /** Whether a new password is chosen; password managers then offer one. */
  isNew?: boolean;
  onChange: (value: string) => void;
}

/** Asks for the password of a person, present or new. */
export function PasswordField({ label, hint, error, value, isNew = false, onChange }: PasswordFieldProps) {
  return (
    <Field label={label} hint={hint} error={error}>
      <input
        type="password"
        className={inputLook}
        value={value}
        required
        autoComplete={isNew ? "new-password" : "current-password"}
        onChange={(event) => onChange(event.target.value)}
      />
    </Field>
  );
}
