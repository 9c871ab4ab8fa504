interface WordToggleProps {
  label: string;
  on: boolean;
  onChange: (on: boolean) => void;
}

/** A word in a sentence that is on or off. */
export function WordToggle({ label, on, onChange }: WordToggleProps) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={() => onChange(!on)}
      className={`mr-1 h-6 rounded px-1.5 font-medium ${on ? "bg-verd-wash text-verd-deep" : "border border-dashed border-line text-ink3"}`}
    >
      {label}
    </button>
  );
}
