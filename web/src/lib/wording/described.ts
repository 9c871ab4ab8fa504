import { hours, plural } from "../format";
import { SIFT_KINDS, type SiftKindInfo } from "../sift-kinds";
import { type Data, number, text, type Wordings } from "./data";

const HOURS_IN_TWO_DAYS = 48;

/** An age in hours, or in whole days from two days on. */
function age(value: number): string {
  return value < HOURS_IN_TWO_DAYS ? plural(value, "hour") : plural(Math.floor(value / 24), "day");
}

/** A value of a note in the words of its choice. */
function valueIn(info: SiftKindInfo, data: Data, name: string, form: string | undefined): string {
  if (form === "hours") return hours(number(data, name));
  if (form === "age") return age(number(data, name));
  const value = text(data, name);
  // A field of the source's own is told by its name.
  if (value === "custom") return text(data, "name");
  const place = info.places[name];
  return place?.type === "choice" ? (place.options[value] ?? value) : value;
}

function filled(template: string, info: SiftKindInfo, data: Data): string {
  return template.replace(/\{(\w+)(?::(\w+))?\}/g, (_, name: string, form?: string) =>
    valueIn(info, data, name, form),
  );
}

/** The words of findings that core describes with their kinds. */
export const DESCRIBED: Wordings = Object.fromEntries(
  SIFT_KINDS.flatMap((info) =>
    Object.entries(info.findings).map(([code, words]) => [
      code,
      ({ data }: { data: Data }) => ({
        strong: filled(words.strong, info, data),
        rest: filled(words.rest, info, data),
      }),
    ]),
  ),
);

/** The short reasons of those findings. */
export const DESCRIBED_REASONS: Record<string, string> = Object.fromEntries(
  SIFT_KINDS.flatMap((info) =>
    Object.entries(info.findings).flatMap(([code, { reason }]) => (reason ? [[code, reason]] : [])),
  ),
);
