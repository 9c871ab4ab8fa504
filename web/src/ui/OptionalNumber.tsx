import { X } from "lucide-react";
import { useRef } from "react";
import { useFocusAfter } from "./useFocusAfter";
import { WordNumber } from "./WordNumber";

interface OptionalNumberProps {
  label: string;
  value: number | null;
  none: string;
  usual: number;
  max: number;
  unit: string;
  onChange: (value: number | null) => void;
}

/** An optional limit in a sentence. */
export function OptionalNumber({ label, value, none, usual, max, unit, onChange }: OptionalNumberProps) {
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
        title="Set a limit"
        onClick={() => {
          focusField();
          onChange(usual);
        }}
      >
        {none}
      </button>
    );
  }
  return (
    <>
      <WordNumber ref={field} label={label} value={value} max={max} onChange={onChange} /> {unit}
      <button
        type="button"
        aria-label={`No limit: ${none}`}
        className="inline-flex size-6 items-center justify-center align-middle text-ink3 hover:text-madder"
        onClick={() => {
          focusButton();
          onChange(null);
        }}
      >
        <X size={12} />
      </button>
    </>
  );
}
