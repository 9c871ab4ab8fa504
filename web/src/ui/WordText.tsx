import { useId } from "react";

interface WordTextProps {
  label: string;
  value: string;
  known: readonly string[];
  placeholder: string;
  /** In characters. */
  longest?: number;
  onChange: (value: string) => void;
}

/** A name in a sentence, typed freely or taken from those that are known. */
export function WordText({ label, value, known, placeholder, longest = 80, onChange }: WordTextProps) {
  const list = useId();
  return (
    <>
      <input
        aria-label={label}
        list={list}
        value={value}
        maxLength={longest}
        placeholder={placeholder}
        style={{ width: `${Math.max(placeholder.length, value.length) + 5}ch` }}
        className="h-6 max-w-full rounded bg-sunk px-1.5 font-medium"
        onChange={(event) => onChange(event.target.value)}
      />
      <datalist id={list}>
        {known.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
    </>
  );
}
