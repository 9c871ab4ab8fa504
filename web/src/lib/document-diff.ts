/** One place at which two documents differ, in words a person can follow. */
export interface Difference {
  path: string;
  before: string;
  after: string;
}

function label(value: unknown, place: number): string {
  const named = value as { id?: unknown } | null;
  return typeof named === "object" && named !== null && typeof named.id === "string"
    ? named.id
    : String(place + 1);
}

/** Entries of a list are known by their ids where they have one, so that a moved rule is no new rule. */
function flat(value: unknown, path: string, into: Map<string, string>): Map<string, string> {
  if (Array.isArray(value) && value.some((one) => typeof one === "object" && one !== null)) {
    for (const [place, one] of value.entries()) flat(one, `${path} › ${label(one, place)}`, into);
  } else if (typeof value === "object" && value !== null && !Array.isArray(value)) {
    for (const [key, one] of Object.entries(value)) flat(one, path ? `${path} › ${key}` : key, into);
  } else {
    into.set(path, Array.isArray(value) ? value.join(", ") : value === null ? "" : String(value));
  }
  return into;
}

export function differences(before: unknown, after: unknown): Difference[] {
  const one = flat(before, "", new Map());
  const other = flat(after, "", new Map());
  return [...new Set([...one.keys(), ...other.keys()])]
    .map((path) => ({ path, before: one.get(path) ?? "", after: other.get(path) ?? "" }))
    .filter((difference) => difference.before !== difference.after);
}
