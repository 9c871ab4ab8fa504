import { X } from "lucide-react";
import { useRef } from "react";
import { useFocusAfter } from "./useFocusAfter";

interface OptionalMomentProps {
  label: string;
  /** The value of the browser's input, or null. */
  value: string | null;
  none: string;
  type: "date" | "datetime-local";
  /** The initial value when it is added to the sentence. */
  begin: () => string;
  onChange: (value: string | null) => void;
}

/** An optional day or moment in a sentence. */
export function OptionalMoment({ label, value, none, type, begin, onChange }: OptionalMomentProps) {
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
          onChange(begin());
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
        type={type}
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
