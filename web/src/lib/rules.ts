import type { SiftRule } from "@/api/campaigns";
import { type SiftKind, siftKind } from "./sift-kinds";

export function freeId(base: string, taken: readonly string[]): string {
  if (!taken.includes(base)) return base;
  let number = 2;
  while (taken.includes(`${base}-${number}`)) number += 1;
  return `${base}-${number}`;
}

/** A new filter rule with harmless settings. */
export function newSiftRule(kind: SiftKind, rules: readonly SiftRule[]): SiftRule {
  const common = { id: newId(kind, rules), title: "", on: true, failing: "refuse", kind };
  return { ...common, ...structuredClone(siftKind(kind)?.start) } as SiftRule;
}

export function newId(base: string, entries: readonly { id: string }[]): string {
  return freeId(
    base,
    entries.map((entry) => entry.id),
  );
}

interface Named {
  id: string;
  title: string;
}

/** The most characters that the title of a rule has. */
export const LONGEST_TITLE = 60;

/** The name of a rule: its title, else its id. */
export function nameOf({ id, title }: Named): string {
  return title || id;
}

/** Inserts a copy of an entry after it, with a new id. */
export function withCopy<T extends Named>(entries: readonly T[], id: string): T[] {
  return entries.flatMap((entry) => {
    if (entry.id !== id) return [entry];
    const title = entry.title && `${entry.title.slice(0, LONGEST_TITLE - COPY.length)}${COPY}`;
    return [entry, { ...entry, id: newId(id.replace(/-\d+$/, ""), entries), title }];
  });
}

const COPY = " (copy)";

/** Whether an entry has another position in the saved list; a new one has not moved. */
export function hasMoved(entries: readonly Named[], saved: readonly Named[], index: number): boolean {
  const ids = new Set(saved.map(({ id }) => id));
  const id = entries[index]?.id;
  if (!id || !ids.has(id)) return false;
  const kept = new Set(entries.map((entry) => entry.id));
  const now = entries.filter((entry) => ids.has(entry.id));
  const was = saved.filter((entry) => kept.has(entry.id));
  return was.findIndex((entry) => entry.id === id) !== now.findIndex((entry) => entry.id === id);
}

/** Move an entry to another place. */
export function moved<T>(entries: readonly T[], from: number, to: number): T[] {
  const [entry] = entries.slice(from, from + 1);
  if (entry === undefined || to < 0 || to >= entries.length) return [...entries];
  const others = entries.filter((_, place) => place !== from);
  return [...others.slice(0, to), entry, ...others.slice(to)];
}

/** Replaces the entry with the id of `next`; without `next` it is removed. */
export function withEntry<T extends { id: string }>(entries: readonly T[], id: string, next: T | null): T[] {
  return entries.flatMap((entry) => (entry.id === id ? (next ? [next] : []) : [entry]));
}
