const VARIABLES = [
  "title",
  "body",
  "excerpt",
  "link",
  "author",
  "categories",
  "published",
  "words",
  "lead.url",
  "lead.alt",
  "source.title",
  "source.link",
];

interface TemplateFieldProps {
  label: string;
  value: string;
  rows: number;
  fault?: string | undefined;
  onChange: (value: string) => void;
}

/** A Liquid template, with the variables it can use at hand. */
export function TemplateField({ label, value, rows, fault, onChange }: TemplateFieldProps) {
  return (
    <>
      <label className="block">
        <span className="font-medium">{label}</span> <span className="text-ink3">Liquid template</span>
        <textarea
          rows={rows}
          spellCheck={false}
          value={value}
          aria-invalid={Boolean(fault)}
          onChange={(event) => onChange(event.target.value)}
          className="mt-1 w-full rounded-md border border-line bg-chalk px-2 py-1 font-mono text-[11.5px] leading-normal aria-invalid:border-madder"
        />
      </label>
      {fault && (
        <p role="alert" className="text-xs font-medium text-madder">
          {fault}
        </p>
      )}
      <details className="text-xs text-ink3">
        <summary>Variables</summary>
        <div className="flex flex-wrap gap-1 pt-1">
          {VARIABLES.map((name) => (
            <button
              key={name}
              type="button"
              className="h-6 rounded bg-sunk px-1.5 font-mono text-[11px] hover:text-verd"
              title="Add at the end"
              onClick={() => onChange(`${value}{{ ${name} }}`)}
            >
              {name}
            </button>
          ))}
        </div>
      </details>
    </>
  );
}
