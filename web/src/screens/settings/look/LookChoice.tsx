import { useId } from "react";
import type { Option } from "./looks";

interface LookChoiceProps<T extends string> {
  legend: string;
  options: Option<T>[];
  value: T;
  onChange: (value: T) => void;
}

/** One part of a look, to be chosen from a few. */
export function LookChoice<T extends string>({ legend, options, value, onChange }: LookChoiceProps<T>) {
  const name = useId();
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">{legend}</legend>
      {options.map((option) => (
        <label key={option.value} className="flex min-h-7 items-center gap-2">
          <input
            type="radio"
            className="size-4 shrink-0"
            name={name}
            checked={option.value === value}
            onChange={() => onChange(option.value)}
          />
          <span>
            {option.label}
            {option.hint && <span className="text-ink2"> – {option.hint}</span>}
          </span>
        </label>
      ))}
    </fieldset>
  );
}
