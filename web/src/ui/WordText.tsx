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

/** A name in a sentence, typed freely or chosen from known ones. */
export function WordText({ label, value, known, placeholder, longest = 80, onChange }: WordTextProps) {
  const list = useId();
  // Browsers show an arrow at the end of a field with suggestions.
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
