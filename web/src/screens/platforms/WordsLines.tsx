import type { WordsCount, WordsLine } from "@/api/platforms";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { inputLook } from "@/ui/Field";

interface WordsLinesProps {
  lines: readonly WordsLine[];
  /** The results of each line so far; none for an unsaved source. */
  counts?: readonly WordsCount[] | undefined;
  onChange: (lines: WordsLine[]) => void;
}

function told(line: WordsLine, counts: readonly WordsCount[]): string {
  const count = counts.find(({ text }) => text === line.text.trim());
  if (!count) return line.text.trim() && line.on ? "has brought nothing" : "";
  return `brought ${plural(count.brought, "item")}, ${count.kept} kept`;
}

/** Search lines with switches. An item knows the line that found it. */
export function WordsLines({ lines, counts, onChange }: WordsLinesProps) {
  const change = (place: number, part: Partial<WordsLine>) =>
    onChange(lines.map((one, number) => (number === place ? { ...one, ...part } : one)));
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">
        Search words
        <span className="ml-2 text-xs font-normal text-ink3">
          one search for each line; every item knows the line that found it
        </span>
      </legend>
      <ul className="space-y-1">
        {lines.map((line, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines have no other name, and may be alike while typed
          <li key={place} className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-verd"
              checked={line.on}
              aria-label={`Search for ${line.text || `line ${place + 1}`}`}
              onChange={(event) => change(place, { on: event.target.checked })}
            />
            <input
              value={line.text}
              maxLength={200}
              aria-label={`Search words, line ${place + 1}`}
              onChange={(event) => change(place, { text: event.target.value })}
              className={`${inputLook} max-w-sm !py-1`}
            />
            {counts && <span className="text-xs text-ink3">{told(line, counts)}</span>}
            <Button
              small
              aria-label={`Remove line ${place + 1}`}
              onClick={() => onChange(lines.filter((_, number) => number !== place))}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-1.5">
        <Button small onClick={() => onChange([...lines, { text: "", on: true }])}>
          Add a line
        </Button>
      </div>
    </fieldset>
  );
}
