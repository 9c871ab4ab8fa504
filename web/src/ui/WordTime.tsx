import { X } from "lucide-react";
import { useRef } from "react";
import { useFocusAfter } from "./useFocusAfter";

interface WordTimeProps {
  label: string;
  value: string | null;
  none: string;
  onChange: (value: string | null) => void;
}

/** A moment as the input of the browser takes it: local time, to the minute. */
function local(value: string): string {
  const moment = new Date(value);
  return new Date(moment.getTime() - moment.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}

/** A moment in a sentence that can be there or not. */
export function WordTime({ label, value, none, onChange }: WordTimeProps) {
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
          onChange(new Date().toISOString());
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
        type="datetime-local"
        aria-label={label}
        value={local(value)}
        className="h-6 rounded bg-sunk px-1.5 font-medium"
        onChange={(event) => event.target.value && onChange(new Date(event.target.value).toISOString())}
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
