import { X } from "lucide-react";
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

/** A limit in a sentence that can be there or not. */
export function OptionalNumber({ label, value, none, usual, max, unit, onChange }: OptionalNumberProps) {
  if (value === null) {
    return (
      <button
        type="button"
        className="h-6 rounded border border-dashed border-line px-1.5 text-ink2 hover:border-verd hover:text-verd"
        title="Set a limit"
        onClick={() => onChange(usual)}
      >
        {none}
      </button>
    );
  }
  return (
    <>
      <WordNumber label={label} value={value} max={max} onChange={onChange} /> {unit}
      <button
        type="button"
        aria-label={`No limit: ${none}`}
        className="inline-flex size-6 items-center justify-center align-middle text-ink3 hover:text-madder"
        onClick={() => onChange(null)}
      >
        <X size={12} />
      </button>
    </>
  );
}
