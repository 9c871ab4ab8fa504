import type { Schedule, When } from "@/api/schedules";
import { momentIn, plural } from "./format";

export const WEEKDAYS = [
  "Monday",
  "Tuesday",
  "Wednesday",
  "Thursday",
  "Friday",
  "Saturday",
  "Sunday",
] as const;

const HOUR = 60;
const DAY = 24 * HOUR;
const SHORT = 3;

export const NO_SCHEDULE: Schedule = { when: { kind: "hand" }, first_day: null, last_day: null };

/** A schedule of another kind, with initial values. */
export function newWhen(kind: When["kind"]): When {
  switch (kind) {
    case "hand":
      return { kind };
    case "every":
      return { kind, minutes: HOUR };
    case "daily":
      return { kind, times: ["07:00"], days: [1, 2, 3, 4, 5, 6, 7] };
    case "cron":
      return { kind, expression: "0 7 * * *" };
  }
}

/** Minutes as a number of the largest unit that fits: 120 are 2 hours. */
export function inUnit(minutes: number): { value: number; unit: "minutes" | "hours" | "days" } {
  if (minutes % DAY === 0) return { value: minutes / DAY, unit: "days" };
  if (minutes % HOUR === 0) return { value: minutes / HOUR, unit: "hours" };
  return { value: minutes, unit: "minutes" };
}

export const MINUTES_OF = { minutes: 1, hours: HOUR, days: DAY } as const;

function list(words: readonly string[]): string {
  return words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} and ${words.at(-1)}`;
}

function daysWords(days: readonly number[]): string {
  if (days.length === WEEKDAYS.length) return "daily";
  if (days.join() === "1,2,3,4,5") return "Monday to Friday";
  return list(days.map((day) => WEEKDAYS[day - 1]?.slice(0, SHORT) ?? ""));
}

/** A schedule in words. */
export function scheduleWords({ when }: Schedule): string {
  switch (when.kind) {
    case "hand":
      return "by hand";
    case "every": {
      const { value, unit } = inUnit(when.minutes);
      const one = unit.slice(0, -1);
      return value === 1 ? `every ${one}` : `every ${plural(value, one)}`;
    }
    case "daily":
      return `${daysWords(when.days)} at ${list(when.times)}`;
    case "cron":
      return `cron ${when.expression}`;
  }
}

interface Planned {
  schedule: Schedule;
  paused: boolean;
  next_run_at: string | null;
  /** The time zone of the blog, used by the schedule. */
  time_zone: string;
}

/** The next run of a campaign, or why there is none. */
export function nextRunWords({ schedule, paused, next_run_at, time_zone }: Planned): string {
  if (schedule.when.kind === "hand") return "by hand";
  if (paused) return "paused";
  return next_run_at === null ? "ended" : momentIn(time_zone, next_run_at);
}
