import { useEffect, useRef, useState } from "react";

interface NameInputProps {
  label: string;
  value: string;
  /** In characters. */
  longest: number;
  placeholder?: string;
  onChange: (name: string) => void;
  /** `byKey` when a key ended it, so that the focus must be moved. */
  onDone: (byKey: boolean) => void;
}

/** Edits a name in place. Enter or leaving the field saves it; Escape restores the old one. */
export function NameInput({ label, value, longest, placeholder, onChange, onDone }: NameInputProps) {
  const [typed, setTyped] = useState(value);
  const input = useRef<HTMLInputElement>(null);
  const left = useRef(false);

  useEffect(() => {
    input.current?.focus();
    input.current?.select();
  }, []);

  function leave(next: string, byKey: boolean) {
    // Enter removes the field, which blurs it as well.
    if (left.current) return;
    left.current = true;
    if (next !== value) onChange(next);
    onDone(byKey);
  }

  return (
    <input
      ref={input}
      data-own-escape
      aria-label={label}
      className="h-7 w-full min-w-0 rounded-md border border-line bg-sheet px-2 font-semibold"
      value={typed}
      maxLength={longest}
      placeholder={placeholder}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => leave(typed.trim(), false)}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== "Escape") return;
        // Otherwise the focus moves to a button, and the same key presses it.
        event.preventDefault();
        leave(event.key === "Enter" ? typed.trim() : value, true);
      }}
    />
  );
}
