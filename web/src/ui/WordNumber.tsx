import { type Ref, useEffect, useState } from "react";

interface WordNumberProps {
  label: string;
  value: number;
  min?: number;
  max?: number;
  whole?: boolean;
  ref?: Ref<HTMLInputElement>;
  onChange: (value: number) => void;
}

/** A number in a sentence. What is typed counts at once when it is in range. */
export function WordNumber({
  label,
  value,
  min = 1,
  max = 1_000_000,
  whole = true,
  ref,
  onChange,
}: WordNumberProps) {
  const [text, setText] = useState(String(value));
  useEffect(() => setText(String(value)), [value]);
  const inRange = (number: number) =>
    (whole ? Number.isInteger(number) : Number.isFinite(number)) && number >= min && number <= max;
  const fits = text.trim() !== "" && inRange(Number(text));
  return (
    <input
      ref={ref}
      aria-label={label}
      aria-invalid={!fits}
      inputMode="numeric"
      value={text}
      style={{ width: `${Math.max(2, text.length) + 1.6}ch` }}
      className="h-6 rounded border-0 bg-sunk px-1.5 text-center font-medium aria-invalid:bg-madder-wash aria-invalid:text-madder"
      onChange={(event) => {
        const next = event.target.value;
        setText(next);
        const number = Number(next);
        if (next.trim() !== "" && inRange(number)) onChange(number);
      }}
      onBlur={() => setText(String(value))}
      onKeyDown={(event) => {
        const by = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
        if (!by) return;
        event.preventDefault();
        onChange(Math.min(max, Math.max(min, value + by)));
      }}
    />
  );
}
