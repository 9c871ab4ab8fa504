import { Button } from "@/ui/Button";
import { inputLook } from "@/ui/Field";

export interface HeaderRow {
  name: string;
  value: string;
  /** Whether a value is stored under this name. */
  kept: boolean;
}

interface HeaderRowsProps {
  rows: readonly HeaderRow[];
  onChange: (rows: HeaderRow[]) => void;
  error: string | undefined;
}

/** Request headers; stored values are not shown. */
export function HeaderRows({ rows, onChange, error }: HeaderRowsProps) {
  const set = (place: number, part: Partial<HeaderRow>) =>
    onChange(rows.map((row, at) => (at === place ? { ...row, ...part } : row)));
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Request headers</legend>
      {rows.map((row, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a row is known by its place
        <div key={place} className="mb-1.5 flex gap-2">
          <input
            aria-label={`Name of header ${place + 1}`}
            className={inputLook}
            value={row.name}
            placeholder="X-Api-Key"
            onChange={(event) => set(place, { name: event.target.value, kept: false })}
          />
          <input
            type="password"
            autoComplete="off"
            aria-label={`Value of header ${place + 1}`}
            className={inputLook}
            value={row.value}
            placeholder={row.kept ? "kept" : "value"}
            onChange={(event) => set(place, { value: event.target.value })}
          />
          <Button
            look="quiet"
            aria-label={`Remove header ${place + 1}`}
            onClick={() => onChange(rows.filter((_, at) => at !== place))}
          >
            Remove
          </Button>
        </div>
      ))}
      <Button small onClick={() => onChange([...rows, { name: "", value: "", kept: false }])}>
        Add a header
      </Button>
      {error && (
        <p role="alert" className="mt-1 text-xs font-medium text-madder">
          {error}
        </p>
      )}
    </fieldset>
  );
}
