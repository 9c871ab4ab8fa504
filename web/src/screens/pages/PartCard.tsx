import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { useState } from "react";
import { marksQuery, type Pointed, type Way } from "@/api/pages";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { WayLine } from "./WayLine";

interface PartCardProps {
  blog: string;
  page: number | null;
  name: string;
  selector: string;
  /** How it is found without a selector. */
  otherwise: string;
  /** The number of articles that have it, and of all; none where that does not apply. */
  filled?: { number: number; of: number } | undefined;
  active: boolean;
  /** Other selectors for the picked elements. */
  others: readonly Pointed[];
  /** How what it finds is taken; none for a part that is a selector alone. */
  way: Way | null;
  onActivate: () => void;
  onSelector: (selector: string) => void;
  onWay: (change: Partial<Way>) => void;
}

/** One part of a page: its selector, its matches, and the button to pick it. */
export function PartCard({
  blog,
  page,
  name,
  selector,
  otherwise,
  filled,
  active,
  others,
  way,
  onActivate,
  onSelector,
  onWay,
}: PartCardProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const shown = draft ?? selector;
  const asked = shown.trim();
  const marks = useQuery({
    ...marksQuery(blog, page ?? 0, asked),
    enabled: page !== null && Boolean(asked),
  }).data;
  const missing = filled && filled.number < filled.of;
  return (
    <section
      aria-label={name}
      className={clsx(
        "rounded-[10px] border bg-sheet p-3",
        active ? "border-verd shadow-[0_0_0_2px_var(--verd-wash)]" : "border-line",
      )}
    >
      <div className="flex items-center gap-2">
        <h3 className="font-semibold">{name}</h3>
        {filled && (
          <span className={clsx("text-xs font-semibold tabular-nums", missing ? "text-ochre" : "text-verd")}>
            {filled.number} of {filled.of}
          </span>
        )}
        {!filled && marks && !marks.error && (
          <span className="text-xs text-ink3">{plural(marks.places.length, "match", "matches")}</span>
        )}
        <span className="ml-auto">
          <Button small look={active ? "primary" : "plain"} aria-pressed={active} onClick={onActivate}>
            {active ? "Pointing" : "Point"}
          </Button>
        </span>
      </div>
      <input
        aria-label={`Selector of ${name}`}
        value={shown}
        spellCheck={false}
        placeholder={otherwise}
        aria-invalid={Boolean(marks?.error)}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => {
          if (draft !== null && draft.trim() !== selector && !marks?.error) onSelector(draft.trim());
          if (!marks?.error) setDraft(null);
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="mt-1.5 w-full rounded-[7px] border border-line bg-chalk px-2 py-1 font-mono text-xs text-verd-deep aria-invalid:border-madder"
      />
      {marks?.error && (
        <p role="alert" className="mt-1 text-xs text-madder">
          {marks.at > 0 && `Character ${marks.at}: `}
          {marks.error}
        </p>
      )}
      {marks && !marks.error && (
        <p className="mt-1 line-clamp-2 text-xs text-ink3">
          {marks.samples.length ? marks.samples.slice(0, 3).join(" · ") : "It finds nothing in this page."}
        </p>
      )}
      {active && way && <WayLine name={name} way={way} isDate={name === "Date"} onChange={onWay} />}
      {active && others.length > 1 && (
        <ul className="mt-2 border-t border-line2 pt-1.5 text-xs">
          {others.slice(1, 4).map((one) => (
            <li key={one.selector} className="flex items-center gap-2">
              <button
                type="button"
                className="min-h-6 truncate font-mono text-ink2 hover:text-verd"
                onClick={() => {
                  setDraft(null);
                  onSelector(one.selector);
                }}
              >
                {one.selector}
              </button>
              <span className="ml-auto whitespace-nowrap text-ink3">
                {plural(one.places.length, "match", "matches")}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
