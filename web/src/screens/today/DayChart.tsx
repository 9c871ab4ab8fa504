import type { MouseEvent } from "react";
import { Link, useNavigate } from "react-router";
import type { Day } from "@/api/today";
import { desk } from "@/lib/blog-path";
import { count } from "@/lib/format";

/** Pixels of the tallest bar. */
const TALLEST = 120;

const PARTS = [
  { key: "refused", name: "refused", look: "bg-line" },
  { key: "duplicate", name: "duplicates", look: "bg-indigo" },
  { key: "held", name: "held", look: "bg-ochre-mark" },
  { key: "kept", name: "kept", look: "bg-verd" },
] as const;

function dayName(day: string): string {
  return new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", timeZone: "UTC" }).format(
    new Date(`${day}T12:00:00Z`),
  );
}

function dayWords(day: Day): string {
  const parts = [...PARTS]
    .reverse()
    .flatMap(({ key, name }) => (day[key] ? [`${count(day[key])} ${name}`] : []));
  return `${dayName(day.day)}: ${parts.join(", ") || "nothing"}`;
}

/**
 * The outcomes of the items decided on each of the last days. A day leads to its items, and a part of its bar to those
 * of one outcome; by keyboard, the list of the day has the filter.
 */
export function DayChart({ blog, days }: { blog: string; days: readonly Day[] }) {
  const navigate = useNavigate();
  function toPart(event: MouseEvent<HTMLElement>, day: string) {
    const outcome = (event.target as HTMLElement).dataset.outcome;
    if (!outcome || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    navigate(desk.decisions(blog, { day, outcome }));
  }
  const most = Math.max(1, ...days.map((day) => PARTS.reduce((sum, { key }) => sum + day[key], 0)));
  return (
    <section aria-label="Items by day" className="sheet-card min-w-0 p-4">
      <h2 className="text-sm">
        Items by day <span className="font-normal text-ink3">two weeks</span>
      </h2>
      <ol className="mt-3 flex items-end gap-1.5">
        {days.map((day) => (
          <li key={day.day} className="min-w-0 flex-1">
            <Link
              to={desk.decisions(blog, { day: day.day })}
              title={dayWords(day)}
              onClick={(event) => toPart(event, day.day)}
              className="flex min-h-6 flex-col justify-end rounded hover:bg-sunk"
            >
              <span className="sr-only">{dayWords(day)}</span>
              {PARTS.map(
                ({ key, name, look }) =>
                  day[key] > 0 && (
                    <span
                      key={key}
                      data-outcome={key}
                      title={`${dayName(day.day)}: ${count(day[key])} ${name}`}
                      className={`w-full border-t border-sheet hover:opacity-75 ${look}`}
                      style={{ height: Math.max(2, (TALLEST * day[key]) / most) }}
                    />
                  ),
              )}
              <span className="mt-1 text-center text-[11px] text-ink3" aria-hidden="true">
                {Number(day.day.slice(-2))}
              </span>
            </Link>
          </li>
        ))}
      </ol>
      <p className="mt-1 flex flex-wrap gap-x-4 text-xs">
        {[...PARTS].reverse().map(({ key, name, look }) => (
          <Link
            key={key}
            to={desk.decisions(blog, { outcome: key })}
            className="inline-flex min-h-6 items-center gap-1.5 text-ink2 hover:text-verd"
          >
            <span className={`size-2.5 rounded-[2px] ${look}`} aria-hidden="true" />
            {count(days.reduce((sum, day) => sum + day[key], 0))} {name}
          </Link>
        ))}
      </p>
    </section>
  );
}
