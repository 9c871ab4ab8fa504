import { Field, inputLook } from "./Field";

interface NumberFieldProps {
  label: string;
  hint: string;
  least?: number;
  most: number;
  value: number;
  onChange: (value: number) => void;
}

/** A whole number up to a limit, from nothing unless `least` says otherwise, in a form. */
export function NumberField({ label, hint, least = 0, most, value, onChange }: NumberFieldProps) {
  return (
    <Field label={label} hint={hint}>
      <input
        type="number"
        min={least}
        max={most}
        className={inputLook}
        value={value}
        onChange={(event) => onChange(Number(event.target.value))}
      />
    </Field>
  );
}
