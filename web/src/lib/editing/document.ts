import { begin, type Edits, edit, isEdited, redo, same, undo } from "./edits";
import { merge } from "./merge";

/** A document as the server has it. Its number grows with each change, by whomever. */
export interface Version<T> {
  readonly number: number;
  readonly value: T;
}

/** Edits that were not saved, as the browser keeps them. */
export interface Draft<T> {
  /** The version that they began from, and its value. */
  readonly begun: number;
  readonly saved: T;
  readonly now: T;
  /** ISO 8601. */
  readonly at: string;
}

/** A document being edited. */
export interface Editing<T> {
  /** The version that the edits began from. */
  readonly begun: number;
  /** `edits.saved` is the value of the version that they began from. */
  readonly edits: Edits<T>;
  /** The newest version that the server has told of. */
  readonly latest: Version<T>;
  /** What is on its way to the server. */
  readonly sending: T | null;
  /** The time of the draft that the edits came from, until the person has answered. */
  readonly restored: string | null;
  /** Places that another person has changed as well, after a merge; null where there was none. */
  readonly clashes: readonly string[] | null;
}

export function open<T>(latest: Version<T>): Editing<T> {
  return {
    begun: latest.number,
    edits: begin(latest.value),
    latest,
    sending: null,
    restored: null,
    clashes: null,
  };
}

export function isChanged<T>(editing: Editing<T>): boolean {
  return isEdited(editing.edits);
}

/** Whether somebody else has saved since the edits began. */
export function isOvertaken<T>(editing: Editing<T>): boolean {
  return editing.sending === null && editing.latest.number > editing.begun && isChanged(editing);
}

/** Adds an edit made at a time in milliseconds. */
export function change<T>(editing: Editing<T>, next: T, at: number): Editing<T> {
  const edits = edit(editing.edits, next, at);
  return edits === editing.edits ? editing : { ...editing, edits };
}

export function goBack<T>(editing: Editing<T>): Editing<T> {
  return moved(editing, undo(editing.edits));
}

export function goForth<T>(editing: Editing<T>): Editing<T> {
  return moved(editing, redo(editing.edits));
}

/** Gives all edits up; undo brings them back. */
export function giveUp<T>(editing: Editing<T>): Editing<T> {
  return { ...moved(editing, replaced(editing.edits, editing.edits.saved)), restored: null };
}

/** An edit of its own, even where it changes the text in which one has just typed. */
function replaced<T>(edits: Edits<T>, next: T): Edits<T> {
  return { ...edit({ ...edits, typing: null }, next, 0), typing: null };
}

function moved<T>(editing: Editing<T>, edits: Edits<T>): Editing<T> {
  return edits === editing.edits ? editing : { ...editing, edits };
}

/** Takes up edits of an earlier visit. What was typed since the document was opened stands on top of them. */
export function takeUp<T>(editing: Editing<T>, draft: Draft<T>): Editing<T> {
  if (same(draft.now, editing.latest.value)) return editing;
  const now = isChanged(editing)
    ? merge(editing.edits.saved, editing.edits.now, draft.now).document
    : draft.now;
  return {
    ...editing,
    begun: draft.begun,
    edits: begin(draft.saved, now),
    restored: draft.at,
  };
}

export function draftOf<T>(editing: Editing<T>, at: string): Draft<T> {
  return { begun: editing.begun, saved: editing.edits.saved, now: editing.edits.now, at };
}

/**
 * Takes in what the server has now. Without edits here it is followed. Older answers say nothing; another value of the
 * same version is the form in which the server keeps it.
 */
export function heard<T>(editing: Editing<T>, latest: Version<T>): Editing<T> {
  const { edits, sending } = editing;
  if (latest.number < editing.latest.number || same(latest, editing.latest)) return editing;
  const followed = { ...editing, latest };
  if (sending !== null) return followed;
  if (latest.number === editing.begun) {
    const now = merge(edits.saved, edits.now, latest.value).document;
    return { ...followed, edits: { ...edits, saved: latest.value, now } };
  }
  if (!isChanged(editing) || same(edits.now, latest.value)) return open(latest);
  // The other person has changed something else than what is edited here.
  return same(edits.saved, latest.value) ? { ...followed, begun: latest.number } : followed;
}

/** Marks the present value as on its way. */
export function send<T>(editing: Editing<T>): Editing<T> {
  return { ...editing, sending: editing.edits.now };
}

/** The server has saved what was sent, perhaps in another form. What was typed meanwhile stays, not saved. */
export function arrived<T>(editing: Editing<T>, saved: Version<T>): Editing<T> {
  const { edits, sending } = editing;
  const sent = sending ?? edits.now;
  const now = merge(sent, edits.now, saved.value).document;
  return {
    ...editing,
    begun: saved.number,
    edits: { ...edits, saved: saved.value, now },
    latest: saved.number > editing.latest.number ? saved : editing.latest,
    sending: null,
    restored: null,
    clashes: null,
  };
}

/** What was sent did not arrive; it stays as edits. */
export function failed<T>(editing: Editing<T>): Editing<T> {
  return { ...editing, sending: null };
}

function following<T>(editing: Editing<T>): Editing<T> {
  const { latest, edits } = editing;
  return {
    ...editing,
    begun: latest.number,
    edits: { ...edits, saved: latest.value },
    restored: null,
    clashes: null,
  };
}

/** Takes the other person's version; undo brings the edits back. */
export function takeTheirs<T>(editing: Editing<T>): Editing<T> {
  const followed = following(editing);
  return moved(followed, replaced(followed.edits, editing.latest.value));
}

/** Puts the edits on top of the other person's version. */
export function putOnTop<T>(editing: Editing<T>): Editing<T> {
  const made = merge(editing.edits.saved, editing.edits.now, editing.latest.value);
  const followed = following(editing);
  return { ...moved(followed, replaced(followed.edits, made.document)), clashes: made.clashes };
}

/** Keeps the document as it stands here, which will replace the other person's version. */
export function keepMine<T>(editing: Editing<T>): Editing<T> {
  return following(editing);
}
