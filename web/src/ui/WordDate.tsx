import { X } from "lucide-react";
import { useRef } from "react";
import { useFocusAfter } from "./useFocusAfter";

interface WordDateProps {
  label: string;
  /** A day (ISO 8601), or none. */
  value: string | null;
  none: string;
  onChange: (value: string | null) => void;
}

const DAY_LENGTH = "2026-11-24".length;

/** A day in a sentence that can be there or not. */
export function WordDate({ label, value, none, onChange }: WordDateProps) {
  const button = useRef<HTMLButtonElement>(null);
  const field = useRef<HTMLInputElement>(null);
  const focusButton = useFocusAfter(button);
  const focusField = useFocusAfter(field);
  if (value === null) {
    return (
      <button
        ref={button}
        type="button"
        className="word-slot"
        onClick={() => {
          focusField();
          onChange(new Date().toISOString().slice(0, DAY_LENGTH));
        }}
      >
        {none}
      </button>
    );
  }
  return (
    <span className="inline-flex items-center">
      <input
        ref={field}
        type="date"
        aria-label={label}
        value={value}
        className="h-6 rounded bg-sunk px-1.5 font-medium"
        onChange={(event) => event.target.value && onChange(event.target.value)}
      />
      <button
        type="button"
        aria-label={`${label}: ${none}`}
        className="inline-flex size-6 items-center justify-center text-ink3 hover:text-madder"
        onClick={() => {
          focusButton();
          onChange(null);
        }}
      >
        <X size={12} />
      </button>
    </span>
  );
}
