import { changedText } from "@/lib/changed-text";

/** A value being edited with all its states, for undo. */
export interface Edits<T> {
  readonly saved: T;
  readonly past: readonly T[];
  readonly now: T;
  readonly future: readonly T[];
  /** The path and time (milliseconds) of the last edit of one text; further typing joins it. */
  readonly typing: { readonly path: string; readonly at: number } | null;
}

const MOST = 200;
/** Milliseconds without a key press that separate two edits. */
const TYPING_PAUSE = 1500;

export function begin<T>(saved: T, now: T = saved): Edits<T> {
  return { saved, past: now === saved ? [] : [saved], now, future: [], typing: null };
}

/** Adds an edit made at a time in milliseconds. Typing in one text is one edit. */
export function edit<T>(edits: Edits<T>, next: T, at: number): Edits<T> {
  if (same(next, edits.now)) return edits;
  const path = changedText(edits.now, next);
  const { typing } = edits;
  const joined = typing !== null && path === typing.path && at - typing.at < TYPING_PAUSE;
  const past = joined ? edits.past : [...edits.past, edits.now].slice(-MOST);
  return { ...edits, past, now: next, future: [], typing: path === null ? null : { path, at } };
}

export function undo<T>(edits: Edits<T>): Edits<T> {
  const last = edits.past.at(-1);
  if (last === undefined) return edits;
  const past = edits.past.slice(0, -1);
  return { ...edits, past, now: last, future: [edits.now, ...edits.future], typing: null };
}

export function redo<T>(edits: Edits<T>): Edits<T> {
  const [next, ...future] = edits.future;
  if (next === undefined) return edits;
  return { ...edits, past: [...edits.past, edits.now], now: next, future, typing: null };
}

/** Whether two values are equal as JSON, whatever the order of keys. */
export function same(one: unknown, other: unknown): boolean {
  if (one === other) return true;
  if (typeof one !== "object" || typeof other !== "object" || !one || !other) return false;
  if (Array.isArray(one) || Array.isArray(other)) {
    if (!Array.isArray(one) || !Array.isArray(other) || one.length !== other.length) return false;
    return one.every((value, index) => same(value, other[index]));
  }
  const [left, right] = [one as Record<string, unknown>, other as Record<string, unknown>];
  const keys = Object.keys(left);
  return keys.length === Object.keys(right).length && keys.every((key) => same(left[key], right[key]));
}

export function isEdited<T>(edits: Edits<T>): boolean {
  return !same(edits.now, edits.saved);
}
