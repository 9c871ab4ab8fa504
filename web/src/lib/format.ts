const numbers = new Intl.NumberFormat("en-GB");
const dayAndTime = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "short",
  hour: "2-digit",
  minute: "2-digit",
});

export function count(value: number): string {
  return numbers.format(value);
}

/** A price as it is written: “289”, “18.50”. What is no number stays as it is. */
export function price(text: string): string {
  const value = Number(text);
  if (text.trim() === "" || !Number.isFinite(value)) return text;
  if (Number.isInteger(value)) return String(value);
  const written = value.toFixed(2);
  return Number(written) === value ? written : text;
}

/** “3 items”, “1 item”. */
export function plural(value: number, one: string, many = `${one}s`): string {
  return `${count(value)} ${value === 1 ? one : many}`;
}

const dayAndYear = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "short",
  year: "numeric",
  hour: "2-digit",
  minute: "2-digit",
});

/** “24 Nov, 12:05” by the clock of a time zone (IANA). */
export function momentIn(timeZone: string, iso: string): string {
  return new Intl.DateTimeFormat("en-GB", {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
    timeZone,
  }).format(new Date(iso));
}

/** “24 Nov, 12:05”; with its year where that is not the present one. */
export function moment(iso: string, now: Date = new Date()): string {
  const date = new Date(iso);
  return (date.getFullYear() === now.getFullYear() ? dayAndTime : dayAndYear).format(date);
}

const MINUTE = 60;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

/** The time between a past time and `now`, in short: “4 min”, “3 h”, “12 d”. */
export function ago(iso: string, now: number = Date.now()): string {
  const seconds = Math.max(0, (now - new Date(iso).getTime()) / 1000);
  if (seconds < MINUTE) return "now";
  if (seconds < HOUR) return `${Math.floor(seconds / MINUTE)} min`;
  if (seconds < 2 * DAY) return `${Math.floor(seconds / HOUR)} h`;
  return `${Math.floor(seconds / DAY)} d`;
}

/** “4 min ago”, “just now”. */
export function since(iso: string, now: number = Date.now()): string {
  const age = ago(iso, now);
  return age === "now" ? "just now" : `${age} ago`;
}

/** A number of hours in the unit a person would use. */
/** A day (ISO 8601, without a time) in words. */
export function day(iso: string): string {
  return new Date(iso).toLocaleDateString("en-GB", {
    day: "numeric",
    month: "long",
    year: "numeric",
    timeZone: "UTC",
  });
}

export function hours(value: number): string {
  return value >= 48 && value % 24 === 0 ? plural(value / 24, "day") : plural(value, "hour");
}

export function milliseconds(value: number): string {
  return value < 1000 ? `${value} ms` : `${(value / 1000).toFixed(1)} s`;
}

/** A number of bytes in a readable unit. */
export function bytes(value: number): string {
  if (value < 1000) return `${value} bytes`;
  if (value < 1_000_000) return `${Math.round(value / 1000)} kB`;
  return `${(value / 1_000_000).toFixed(1)} MB`;
}
