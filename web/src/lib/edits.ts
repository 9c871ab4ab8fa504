/** A value being edited, with every state it went through, so that edits can be undone. */
export interface Edits<T> {
  readonly saved: T;
  readonly past: readonly T[];
  readonly now: T;
  readonly future: readonly T[];
}

const MOST = 200;

export function begin<T>(saved: T): Edits<T> {
  return { saved, past: [], now: saved, future: [] };
}

/** Take in an edit. One that follows under the same name within a moment joins the one before. */
export function edit<T>(edits: Edits<T>, next: T, join = false): Edits<T> {
  if (same(next, edits.now)) return edits;
  const past = join && edits.past.length ? edits.past : [...edits.past, edits.now].slice(-MOST);
  return { ...edits, past, now: next, future: [] };
}

export function undo<T>(edits: Edits<T>): Edits<T> {
  const last = edits.past.at(-1);
  if (last === undefined) return edits;
  return { ...edits, past: edits.past.slice(0, -1), now: last, future: [edits.now, ...edits.future] };
}

export function redo<T>(edits: Edits<T>): Edits<T> {
  const [next, ...future] = edits.future;
  if (next === undefined) return edits;
  return { ...edits, past: [...edits.past, edits.now], now: next, future };
}

export function same(one: unknown, other: unknown): boolean {
  return one === other || JSON.stringify(one) === JSON.stringify(other);
}

export function isEdited<T>(edits: Edits<T>): boolean {
  return !same(edits.now, edits.saved);
}
