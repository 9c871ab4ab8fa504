import { freeId } from "@/lib/rules";
import { same } from "./edits";

/** The result of merging one person's edits into another's. */
export interface Merged<T> {
  document: T;
  /** Paths that both have changed; mine is kept. */
  clashes: string[];
}

/** Merges the edits from `base` to `mine` into `theirs`, which has the same base. */
export function merge<T>(base: T, mine: T, theirs: T): Merged<T> {
  const clashes: string[] = [];
  return { document: merged(base, mine, theirs, "", clashes) as T, clashes };
}

function merged(base: unknown, mine: unknown, theirs: unknown, path: string, clashes: string[]): unknown {
  if (same(mine, theirs) || same(mine, base)) return theirs;
  if (same(theirs, base)) return mine;
  if (areEntries(base) && areEntries(mine) && areEntries(theirs))
    return mergedEntries(base, mine, theirs, path, clashes);
  if (areWords(base) && areWords(mine) && areWords(theirs)) return mergedWords(base, mine, theirs);
  if (isPart(base) && isPart(mine) && isPart(theirs)) return mergedPart(base, mine, theirs, path, clashes);
  clashes.push(path);
  return mine;
}

type Part = Record<string, unknown>;
type Entry = Part & { id: string };

function isPart(value: unknown): value is Part {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

function areEntries(value: unknown): value is Entry[] {
  return Array.isArray(value) && value.every((one) => isPart(one) && typeof one.id === "string");
}

function areWords(value: unknown): value is string[] {
  return Array.isArray(value) && value.every((one) => typeof one === "string");
}

function below(path: string, key: string): string {
  return path ? `${path} › ${key}` : key;
}

function mergedPart(base: Part, mine: Part, theirs: Part, path: string, clashes: string[]): Part {
  const keys = new Set([...Object.keys(theirs), ...Object.keys(mine)]);
  const made: Part = {};
  for (const key of keys) made[key] = merged(base[key], mine[key], theirs[key], below(path, key), clashes);
  return made;
}

/** Words that either has added, without words that either has removed. */
function mergedWords(base: string[], mine: string[], theirs: string[]): string[] {
  const kept = theirs.filter((word) => mine.includes(word) || !base.includes(word));
  return [...kept, ...mine.filter((word) => !base.includes(word) && !kept.includes(word))];
}

/** Rules match by id; their order is mine where I moved any, else theirs. */
function mergedEntries(
  base: Entry[],
  mine: Entry[],
  theirs: Entry[],
  path: string,
  clashes: string[],
): Entry[] {
  const [before, ours, others] = [base, mine, theirs].map(
    (entries) => new Map(entries.map((entry) => [entry.id, entry])),
  ) as [Map<string, Entry>, Map<string, Entry>, Map<string, Entry>];
  const made = new Map<string, Entry>();
  const added: Entry[] = [];
  for (const id of new Set([...others.keys(), ...ours.keys()])) {
    const [was, my, their] = [before.get(id), ours.get(id), others.get(id)];
    if (my && their && !was && !same(my, their)) {
      // Each has added a rule, and both got the same id by chance.
      made.set(id, their);
      added.push({
        ...my,
        id: freeId(id, [...ours.keys(), ...others.keys(), ...added.map((one) => one.id)]),
      });
    } else if (my && their) made.set(id, merged(was ?? {}, my, their, below(path, id), clashes) as Entry);
    else if (my ? !was || !same(my, was) : their && (!was || !same(their, was))) {
      // One person added it; or one removed it and the other changed it, a clash in which it stays.
      if (was) clashes.push(below(path, id));
      const entry = my ?? their;
      if (entry) made.set(id, entry);
    }
  }
  const moved = !same(orderOf(mine, base), orderOf(base, mine));
  const order = moved ? [...mine, ...theirs] : [...theirs, ...mine];
  return [...new Set(order.map((entry) => entry.id))].flatMap((id) => made.get(id) ?? []).concat(added);
}

function orderOf(entries: Entry[], among: Entry[]): string[] {
  return entries.map(({ id }) => id).filter((id) => among.some((entry) => entry.id === id));
}
