import type { When } from "@/api/schedules";
import { inUnit, MINUTES_OF, newWhen } from "@/lib/schedule";
import { inputLook } from "@/ui/Field";
import { Segmented } from "@/ui/Segmented";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { DailyTimes } from "./DailyTimes";

const KINDS = [
  { value: "hand", label: "By hand only" },
  { value: "every", label: "Every …" },
  { value: "daily", label: "At times of day" },
  { value: "cron", label: "Cron" },
] as const;
const UNITS = [
  { value: "minutes", label: "minutes" },
  { value: "hours", label: "hours" },
  { value: "days", label: "days" },
] as const;
const LEAST_MINUTES = 5;
const MOST_DAYS = 31;

interface WhenFieldsProps {
  when: When;
  onChange: (when: When) => void;
}

/** The kind of a schedule and its fields. */
export function WhenFields({ when, onChange }: WhenFieldsProps) {
  const every = when.kind === "every" ? inUnit(when.minutes) : null;
  return (
    <>
      <div className="flex">
        <Segmented<When["kind"]>
          label="How often"
          value={when.kind}
          options={KINDS}
          onChange={(kind) => onChange(newWhen(kind))}
        />
      </div>
      <div className="mt-3 leading-loose">
        {when.kind === "hand" && <span className="text-ink2">It runs when a person presses “Run now”.</span>}
        {when.kind === "every" && every && (
          <>
            Every{" "}
            <WordNumber
              label="How many"
              value={every.value}
              min={every.unit === "minutes" ? LEAST_MINUTES : 1}
              max={(MOST_DAYS * MINUTES_OF.days) / MINUTES_OF[every.unit]}
              onChange={(value) => onChange({ ...when, minutes: value * MINUTES_OF[every.unit] })}
            />{" "}
            <WordSelect
              label="Unit"
              value={every.unit}
              options={UNITS}
              onChange={(unit) => {
                const least = unit === "minutes" ? LEAST_MINUTES : 1;
                const value = Math.min(
                  Math.max(every.value, least),
                  (MOST_DAYS * MINUTES_OF.days) / MINUTES_OF[unit],
                );
                onChange({ ...when, minutes: value * MINUTES_OF[unit] });
              }}
            />
          </>
        )}
        {when.kind === "daily" && <DailyTimes when={when} onChange={onChange} />}
        {when.kind === "cron" && (
          <label className="block">
            Minute, hour, day of the month, month, day of the week
            <input
              aria-label="Cron expression"
              className={`${inputLook} mt-1 font-mono`}
              value={when.expression}
              maxLength={100}
              spellCheck={false}
              onChange={(event) => onChange({ ...when, expression: event.target.value })}
            />
          </label>
        )}
      </div>
    </>
  );
}
