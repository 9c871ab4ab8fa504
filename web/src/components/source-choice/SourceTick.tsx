import clsx from "clsx";

interface SourceTickProps {
  title: string;
  note: string;
  on: boolean;
  bad?: boolean;
  onChange: (on: boolean) => void;
}

/** A source that can be chosen. */
export function SourceTick({ title, note, on, bad = false, onChange }: SourceTickProps) {
  return (
    <label className={clsx("flex min-h-6 items-center gap-2 py-0.5", bad && "text-madder")}>
      <input
        type="checkbox"
        className="accent-verd"
        checked={on}
        onChange={(event) => onChange(event.target.checked)}
      />
      <span className="truncate">{title}</span>
      <span className={clsx("ml-auto text-xs whitespace-nowrap", !bad && "text-ink3")}>{note}</span>
    </label>
  );
}
