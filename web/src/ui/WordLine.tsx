interface WordLineProps {
  label: string;
  hint: string;
  value: string;
  fault?: string | undefined;
  onChange: (value: string) => void;
}

const AT = /^at character (\d+): (.*)$/;

/** A line of text in a rule; a fault that names a character is shown under that character. */
export function WordLine({ label, hint, value, fault, onChange }: WordLineProps) {
  const placed = fault ? AT.exec(fault) : null;
  return (
    <span className="block">
      <input
        aria-label={label}
        aria-invalid={Boolean(fault)}
        value={value}
        spellCheck={false}
        className="mt-0.5 w-full rounded-md border border-line bg-chalk px-2 py-0.5 font-mono text-[11.5px] aria-invalid:border-madder"
        onChange={(event) => onChange(event.target.value)}
      />
      {fault ? (
        <span role="alert" className="block font-mono text-[11.5px] leading-tight text-madder">
          {placed && (
            <span
              aria-hidden="true"
              className="block whitespace-pre pl-2"
            >{`${" ".repeat(Number(placed[1]) - 1)} ↑`}</span>
          )}
          {placed ? placed[2] : fault}
        </span>
      ) : (
        <span className="block text-[11px] leading-tight text-ink3">{hint}</span>
      )}
    </span>
  );
}
