import clsx from "clsx";
import { Plus, X } from "lucide-react";
import type { Schemas } from "@/api/client";
import { WEEKDAYS } from "@/lib/schedule";

type Daily = Schemas["Daily"];

const SHORT = 2;
const MOST_TIMES = 48;

/** An hour after the last time, as an initial value. */
function another(times: readonly string[]): string {
  const [hour = 6, minute = 0] = (times.at(-1) ?? "06:00").split(":").map(Number);
  return `${String((hour + 1) % 24).padStart(2, "0")}:${String(minute).padStart(2, "0")}`;
}

/** Times of day and days of the week; the last of each stays. */
export function DailyTimes({ when, onChange }: { when: Daily; onChange: (when: Daily) => void }) {
  const { times, days } = when;
  const set = (next: string[]) => onChange({ ...when, times: next });
  return (
    <>
      At{" "}
      {times.map((time, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a time that is being typed must keep its field
        <span key={place} className="mr-1 inline-flex items-center">
          <input
            type="time"
            aria-label={`Time ${place + 1}`}
            value={time}
            className="h-6 rounded bg-sunk px-1.5 font-medium"
            onChange={(event) =>
              event.target.value &&
              set(times.map((one, index) => (index === place ? event.target.value : one)))
            }
          />
          {times.length > 1 && (
            <button
              type="button"
              aria-label={`Remove ${time}`}
              className="inline-flex size-6 items-center justify-center text-ink3 hover:text-madder"
              onClick={() => set(times.filter((_, index) => index !== place))}
            >
              <X size={12} />
            </button>
          )}
        </span>
      ))}
      {times.length < MOST_TIMES && (
        <button type="button" className="word-slot" onClick={() => set([...times, another(times)])}>
          <Plus size={11} aria-hidden="true" /> time
        </button>
      )}{" "}
      on
      <fieldset aria-label="Days of the week" className="mt-1 flex gap-1">
        {WEEKDAYS.map((name, index) => {
          const day = index + 1;
          const on = days.includes(day);
          return (
            <button
              key={name}
              type="button"
              aria-pressed={on}
              title={name}
              disabled={on && days.length === 1}
              className={clsx(
                "h-7 w-9 rounded font-medium",
                on ? "bg-verd-wash text-verd-deep" : "border border-dashed border-line text-ink3",
              )}
              onClick={() =>
                onChange({
                  ...when,
                  days: on ? days.filter((one) => one !== day) : [...days, day].sort((one, two) => one - two),
                })
              }
            >
              {name.slice(0, SHORT)}
            </button>
          );
        })}
      </fieldset>
    </>
  );
}
