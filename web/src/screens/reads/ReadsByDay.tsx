import clsx from "clsx";
import type { Reads } from "@/api/reads";
import { plural } from "@/lib/format";

function dayName(day: string): string {
  return new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", timeZone: "UTC" }).format(
    new Date(`${day}T12:00:00Z`),
  );
}

/** With more days their bars stand close. */
const MOST_WITH_GAPS = 31;

/** The reads of each day as bars, the newest at the end. */
export function ReadsByDay({ days }: { days: Reads["days"] }) {
  const most = Math.max(1, ...days.map(({ reads }) => reads));
  return (
    <section aria-label="Reads by day" className="sheet-card p-4">
      <h2 className="text-sm">
        Reads by day <span className="font-normal text-ink3">UTC</span>
      </h2>
      <ol className={clsx("mt-3 flex h-28 items-end", days.length > MOST_WITH_GAPS ? "gap-px" : "gap-1.5")}>
        {days.map(({ day, reads }) => (
          <li
            key={day}
            title={`${dayName(day)}: ${plural(reads, "read")}`}
            className="flex h-full min-w-0 flex-1 flex-col justify-end"
          >
            <span className="sr-only">{`${dayName(day)}: ${plural(reads, "read")}`}</span>
            <span
              aria-hidden="true"
              className={reads ? "rounded-t-[2px] bg-verd" : "bg-line"}
              style={{ height: reads ? `${Math.max(3, (100 * reads) / most)}%` : 1 }}
            />
          </li>
        ))}
      </ol>
      <p className="mt-1 flex justify-between text-[11px] text-ink3" aria-hidden="true">
        <span>{days[0] && dayName(days[0].day)}</span>
        <span>{days.length > 1 && dayName(days[days.length - 1]?.day ?? "")}</span>
      </p>
    </section>
  );
}
