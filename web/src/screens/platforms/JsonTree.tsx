import { useState } from "react";

const SHOWN = 50;

interface JsonTreeProps {
  name: string;
  value: unknown;
  /** The steps from the root of the answer: names, and indexes of lists. */
  path: readonly (string | number)[];
  onPick: (path: readonly (string | number)[]) => void;
  open?: boolean;
}

function short(value: unknown): string {
  if (typeof value === "string") return `“${value.slice(0, 60)}${value.length > 60 ? "…" : ""}”`;
  return String(value);
}

/** An answer as a tree; a click picks a value. */
export function JsonTree({ name, value, path, onPick, open = false }: JsonTreeProps) {
  const [shown, setShown] = useState(open);
  if (value === null || typeof value !== "object")
    return (
      <li className="flex gap-1.5">
        <button
          type="button"
          className="min-h-6 rounded px-1 text-left font-mono hover:bg-verd-wash"
          onClick={() => onPick(path)}
        >
          <span className="text-ink3">{name}:</span> {short(value)}
        </button>
      </li>
    );
  const list = Array.isArray(value);
  const parts: [string | number, unknown][] = list
    ? value.map((one, place) => [place, one])
    : Object.entries(value);
  return (
    <li>
      <div className="flex items-center gap-1">
        <button
          type="button"
          aria-expanded={shown}
          className="min-h-6 rounded px-1 font-mono hover:bg-verd-wash"
          onClick={() => setShown(!shown)}
        >
          <span aria-hidden>{shown ? "▾" : "▸"}</span> <span className="text-ink3">{name}</span>{" "}
          {list ? `[${parts.length}]` : `{${parts.length}}`}
        </button>
        <button
          type="button"
          className="min-h-6 rounded px-1.5 text-verd hover:bg-verd-wash"
          onClick={() => onPick(path)}
        >
          {list ? "this list" : "this"}
        </button>
      </div>
      {shown && (
        <ul className="ml-3 border-l border-line2 pl-2">
          {parts.slice(0, SHOWN).map(([key, part]) => (
            <JsonTree
              key={key}
              name={String(key)}
              value={part}
              path={[...path, key]}
              onPick={onPick}
              open={list && key === 0}
            />
          ))}
          {parts.length > SHOWN && <li className="text-ink3">and {parts.length - SHOWN} more</li>}
        </ul>
      )}
    </li>
  );
}
