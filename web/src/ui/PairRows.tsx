import { ArrowRight, Plus, X } from "lucide-react";
import { useEffect, useId, useState } from "react";

type Pair = readonly [string, string];

interface PairRowsProps {
  label: string;
  rows: readonly Pair[];
  heads: Pair;
  known?: readonly string[];
  /** Suggested words for the first column with their counts; a click adds a row. */
  seen?: readonly { name: string; count: number }[];
  onChange: (rows: [string, string][]) => void;
}

const CELL = "h-6 w-0 min-w-0 flex-1 rounded bg-sunk px-1.5 font-medium";

/** The number of suggested words shown together. */
const MOST_SEEN = 12;

function complete(rows: readonly Pair[]): [string, string][] {
  return rows.filter(([from, to]) => from.trim() && to.trim()).map(([from, to]) => [from, to]);
}

/** A small table of two columns inside a rule. A row counts once both of its cells are filled. */
export function PairRows({ label, rows, heads, known = [], seen = [], onChange }: PairRowsProps) {
  const list = useId();
  const [shown, setShown] = useState<readonly Pair[]>(rows);
  useEffect(() => {
    setShown((before) => (JSON.stringify(complete(before)) === JSON.stringify(rows) ? before : rows));
  }, [rows]);

  function set(next: readonly Pair[]) {
    setShown(next);
    onChange(complete(next));
  }
  const setCell = (place: number, cell: 0 | 1, text: string) =>
    set(
      shown.map(([from, to], index) =>
        index !== place
          ? ([from, to] as const)
          : cell === 0
            ? ([text, to] as const)
            : ([from, text] as const),
      ),
    );

  const there = new Set(shown.map(([from]) => from.trim().toLowerCase()));
  const missing = seen.filter(({ name }) => !there.has(name.toLowerCase())).slice(0, MOST_SEEN);

  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset cannot stand inside a sentence
    <span role="group" aria-label={label} className="mt-1 block space-y-1">
      {shown.map(([from, to], place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a row is known by its place
        <span key={place} className="flex items-center gap-1">
          <input
            aria-label={`${heads[0]} ${place + 1}`}
            value={from}
            maxLength={80}
            placeholder={heads[0]}
            className={CELL}
            onChange={(event) => setCell(place, 0, event.target.value)}
          />
          <ArrowRight size={11} className="shrink-0 text-ink3" aria-hidden="true" />
          <input
            aria-label={`${heads[1]} ${place + 1}`}
            value={to}
            list={list}
            maxLength={80}
            placeholder={heads[1]}
            className={CELL}
            onChange={(event) => setCell(place, 1, event.target.value)}
          />
          <button
            type="button"
            aria-label={`Remove row ${place + 1}`}
            className="inline-flex size-6 shrink-0 items-center justify-center text-ink3 hover:text-madder"
            onClick={() => set(shown.filter((_, index) => index !== place))}
          >
            <X size={11} />
          </button>
        </span>
      ))}
      <datalist id={list}>
        {known.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      <button type="button" className="word-slot" onClick={() => setShown([...shown, ["", ""]])}>
        <Plus size={11} /> row
      </button>
      {missing.length > 0 && (
        <span className="block text-xs leading-relaxed text-ink3">
          Seen, and not in the table:{" "}
          {missing.map(({ name, count }) => (
            <button
              key={name}
              type="button"
              className="mr-1.5 inline-flex min-h-6 items-center gap-1 text-ink2 hover:text-verd"
              title={`Make a row of “${name}”`}
              onClick={() => setShown([...shown, [name, ""]])}
            >
              {name} <span className="text-ink3">{count}</span>
            </button>
          ))}
        </span>
      )}
    </span>
  );
}
