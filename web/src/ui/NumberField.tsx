import { Field, inputLook } from "./Field";

interface NumberFieldProps {
  label: string;
  hint: string;
  most: number;
  value: number;
  onChange: (value: number) => void;
}

/** A whole number from nothing to a limit, in a form. */
export function NumberField({ label, hint, most, value, onChange }: NumberFieldProps) {
  return (
    <Field label={label} hint={hint}>
      <input
        type="number"
        min={0}
        max={most}
        className={inputLook}
        value={value}
        onChange={(event) => onChange(Number(event.target.value))}
      />
    </Field>
  );
}
