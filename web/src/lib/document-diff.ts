import { diffArrays } from "diff";

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

/** A whole entry in one line: its kind, then what is set in it. */
function summary(entry: Record<string, unknown>): string {
  const parts = Object.entries(entry).flatMap(([key, value]) => {
    if (["id", "kind", "on"].includes(key) || value === null || value === "" || value === false) return [];
    const said = Array.isArray(value) || typeof value === "object" ? shortList(value) : String(value);
    return said ? [`${key.replaceAll("_", " ")} ${said}`] : [];
  });
  return [entry.kind, ...parts].filter(Boolean).join(" · ");
}

function shortList(value: unknown): string {
  if (Array.isArray(value) && value.every((one) => typeof one !== "object")) return value.join(", ");
  return Array.isArray(value) ? (value.length ? `${value.length} entries` : "") : JSON.stringify(value);
}

function named(value: unknown): Map<string, Record<string, unknown>> {
  const entries = Array.isArray(value) ? value : [];
  return new Map(
    entries.flatMap((entry) =>
      typeof entry === "object" && entry !== null && "id" in entry ? [[String(entry.id), entry]] : [],
    ),
  );
}

/** Entries on one side only are one line each and not compared further. */
function withoutStrangers(
  one: unknown,
  other: unknown,
  path: string,
  found: Difference[],
): [unknown, unknown] {
  if (Array.isArray(one) && Array.isArray(other)) {
    const [ours, theirs] = [named(one), named(other)];
    for (const [id, entry] of ours)
      if (!theirs.has(id)) found.push({ path: `${path} › ${id}`, before: summary(entry), after: "" });
    for (const [id, entry] of theirs)
      if (!ours.has(id)) found.push({ path: `${path} › ${id}`, before: "", after: summary(entry) });
    const both = (list: unknown[]) =>
      list.filter((entry) => {
        const id = (entry as { id?: unknown } | null)?.id;
        return typeof id !== "string" || (ours.has(id) && theirs.has(id));
      });
    return [both(one), both(other)];
  }
  if (typeof one !== "object" || typeof other !== "object" || !one || !other) return [one, other];
  if (Array.isArray(one) || Array.isArray(other)) return [one, other];
  const left: Record<string, unknown> = { ...one };
  const right: Record<string, unknown> = { ...other };
  for (const key of Object.keys(left).filter((name) => name in right))
    [left[key], right[key]] = withoutStrangers(left[key], right[key], path ? `${path} › ${key}` : key, found);
  return [left, right];
}

/** Entries match by id where they have one, so a moved rule is not a new one. */
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

/** Entries in another order, found by the longest common subsequence. */
function moves(before: unknown, after: unknown, path: string): Difference[] {
  if (Array.isArray(before) && Array.isArray(after)) {
    const [old, now] = [named(before), named(after)];
    const both = (entries: Map<string, unknown>) =>
      [...entries.keys()].filter((id) => old.has(id) && now.has(id));
    const [from, to] = [both(old), both(now)];
    const moved = diffArrays(from, to).flatMap((part) => (part.removed ? part.value : []));
    const inside = from.flatMap((id) => moves(old.get(id), now.get(id), `${path} › ${id}`));
    const place = (ids: string[], id: string) => `place ${ids.indexOf(id) + 1}`;
    return [
      ...inside,
      ...moved.map((id) => ({ path: `${path} › ${id}`, before: place(from, id), after: place(to, id) })),
    ];
  }
  if (typeof before !== "object" || typeof after !== "object" || !before || !after) return [];
  const [left, right] = [before as Record<string, unknown>, after as Record<string, unknown>];
  return Object.keys(left)
    .filter((key) => key in right)
    .flatMap((key) => moves(left[key], right[key], path ? `${path} › ${key}` : key));
}

export function differences(before: unknown, after: unknown): Difference[] {
  const strangers: Difference[] = [];
  const [left, right] = withoutStrangers(before, after, "", strangers);
  const one = flat(left, "", new Map());
  const other = flat(right, "", new Map());
  const changed = [...new Set([...one.keys(), ...other.keys()])]
    .map((path) => ({ path, before: one.get(path) ?? "", after: other.get(path) ?? "" }))
    .filter((difference) => difference.before !== difference.after);
  return [...changed, ...strangers, ...moves(before, after, "")];
}
