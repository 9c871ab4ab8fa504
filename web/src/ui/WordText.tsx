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
  // Where names are known the browser puts an arrow at the end.
  const room = known.length ? 5 : 2;
  return (
    <>
      <input
        aria-label={label}
        list={list}
        value={value}
        maxLength={longest}
        placeholder={placeholder}
        style={{ width: `${(value || placeholder).length + room}ch` }}
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
