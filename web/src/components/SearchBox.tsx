import { Search } from "lucide-react";
import { useEffect, useState } from "react";

interface SearchBoxProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
}

const PAUSE = 200;

/** A search field that reports what was typed after a short pause. */
export function SearchBox({ label, value, onChange }: SearchBoxProps) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  useEffect(() => {
    if (text === value) return;
    const timer = setTimeout(() => onChange(text), PAUSE);
    return () => clearTimeout(timer);
  }, [text, value, onChange]);
  return (
    <span className="relative inline-block">
      <Search size={13} className="pointer-events-none absolute top-1/2 left-2 -translate-y-1/2 text-ink3" />
      <input
        type="search"
        aria-label={label}
        placeholder={label}
        value={text}
        onChange={(event) => setText(event.target.value)}
        className="w-44 max-w-full rounded-[7px] border border-line bg-sheet py-1 pr-2 pl-7"
      />
    </span>
  );
}
