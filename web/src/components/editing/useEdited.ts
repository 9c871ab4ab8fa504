import { type QueryKey, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { ProblemError } from "@/api/client";
import { type Session, sessionQuery } from "@/api/session";
import {
  arrived,
  change,
  draftOf,
  type Editing,
  failed,
  giveUp,
  goBack,
  goForth,
  heard,
  isChanged,
  isOvertaken,
  keepMine,
  open,
  putOnTop,
  send,
  takeTheirs,
  takeUp,
  type Version,
} from "@/lib/editing/document";
import { drafts } from "@/lib/editing/draft-store";

interface EditedOptions<T, Result> {
  /** Names the document among all that this person edits: `post meadow/12`. */
  document: string;
  /** The document as the server has it. */
  saved: Version<T>;
  /** What of it may lie on the disk, where it has secrets. */
  forDisk?: (value: T) => T;
  /** Sends a value and the version that it began from. Rejects with 409 where somebody else was first. */
  save: (value: T, begun: number, was: T, note: string) => Promise<Result>;
  /** The version that an answer to a save names. */
  versionOf: (result: Result, sent: T) => Version<T>;
  /** Fetches the newest version after a conflict. */
  fetchLatest?: () => Promise<Version<T>>;
  /** The name of the document that a new one has become. */
  becomes?: (result: Result) => string | null;
  /** Queries that a save makes stale. */
  refresh?: readonly QueryKey[];
  onSaved?: (result: Result) => void;
}

/** How the last save went. */
export type Saving =
  | { state: "still" }
  | { state: "sending" }
  /** The server could not be reached; the edits are sent again by themselves. */
  | { state: "waiting"; seconds: number }
  | { state: "refused"; error: Error };

const KEEP_AFTER = 300;
const CONFLICT = 409;
const FIRST_WAIT = 2;
const LONGEST_WAIT = 30;
const STILL: Saving = { state: "still" };

type Step<T> = (editing: Editing<T>) => Editing<T>;

/** A document being edited: undo and redo, a draft in the browser, saving, and what others save meanwhile. */
export function useEdited<T, Result = unknown>(options: EditedOptions<T, Result>) {
  const { document, saved } = options;
  const queries = useQueryClient();
  const user = queries.getQueryData<Session>(sessionQuery.queryKey)?.user ?? "";
  // A session that ends leaves the edits with the person who made them; another one gets a page of their own.
  const owner = useRef(user);
  owner.current ||= user;
  const person = owner.current;
  const latest = useRef(options);
  latest.current = options;
  // The state is kept beside React's, so that a save sends what was typed a moment before.
  const editing = useRef<Editing<T>>(null as unknown as Editing<T>);
  editing.current ??= open(saved);
  const [, draw] = useReducer((count: number) => count + 1, 0);
  const apply = useCallback((step: Step<T>) => {
    const next = step(editing.current);
    if (next === editing.current) return;
    editing.current = next;
    draw();
  }, []);

  const [kept, setKept] = useState(true);
  const asked = useRef(false);
  const wrote = useRef(false);
  const keep = useCallback(() => {
    const { current } = editing;
    // Before the draft of an earlier visit is found, nothing may replace it.
    if (!asked.current) return;
    if (isChanged(current)) {
      wrote.current = true;
      const draft = draftOf(current, new Date().toISOString());
      const { forDisk } = latest.current;
      drafts()
        .keep(person, document, forDisk ? { ...draft, now: forDisk(draft.now) } : draft)
        .then(() => setKept(true))
        .catch(() => setKept(false));
    } else if (wrote.current) {
      wrote.current = false;
      drafts()
        .drop(person, document)
        .catch(() => {});
    }
  }, [person, document]);

  useEffect(() => {
    let left = false;
    drafts()
      .take<T>(person, document)
      .catch(() => null)
      .then((draft) => {
        if (left) return;
        asked.current = true;
        if (!draft) return;
        wrote.current = true;
        apply((now) => takeUp(now, draft));
      });
    return () => {
      left = true;
    };
  }, [person, document, apply]);

  useEffect(() => apply((now) => heard(now, saved)), [saved, apply]);

  const { edits } = editing.current;
  // biome-ignore lint/correctness/useExhaustiveDependencies: a draft is kept after each edit
  useEffect(() => {
    const timer = setTimeout(keep, KEEP_AFTER);
    return () => clearTimeout(timer);
  }, [edits.now, edits.saved, keep]);
  useEffect(() => {
    window.addEventListener("pagehide", keep);
    return () => {
      window.removeEventListener("pagehide", keep);
      keep();
    };
  }, [keep]);

  const [saving, setSaving] = useState<Saving>(STILL);
  const again = useRef(false);
  const wait = useRef(FIRST_WAIT);

  /** What was typed while a new document was made goes on in that document. */
  const moveOn = useCallback(
    async (name: string | null) => {
      const { current } = editing;
      if (name && isChanged(current)) {
        await drafts()
          .keep(person, name, draftOf(current, new Date().toISOString()))
          .catch(() => setKept(false));
        apply(() => open(current.latest));
      }
      keep();
    },
    [apply, keep, person],
  );

  /** Saves with a note. Returns the answer; null where it was not saved. */
  const save = useCallback(
    async (note = ""): Promise<Result | null> => {
      if (editing.current.sending !== null) {
        // What is typed meanwhile goes with the next one.
        again.current = true;
        return null;
      }
      const { save: sendValue, versionOf, fetchLatest, refresh = [], onSaved } = latest.current;
      apply(send);
      setSaving({ state: "sending" });
      const { begun, edits: sent } = editing.current;
      let result: Result;
      try {
        result = await sendValue(sent.now, begun, sent.saved, note);
      } catch (error) {
        apply(failed);
        again.current = false;
        const problem = error instanceof Error ? error : new Error(String(error));
        const status = problem instanceof ProblemError ? problem.status : -1;
        if (status === 0) {
          setSaving({ state: "waiting", seconds: wait.current });
          wait.current = Math.min(wait.current * 2, LONGEST_WAIT);
          return null;
        }
        setSaving({ state: "refused", error: problem });
        if (status === CONFLICT && fetchLatest) {
          const theirs = await fetchLatest().catch(() => null);
          if (theirs) apply((now) => heard(now, theirs));
        }
        return null;
      }
      wait.current = FIRST_WAIT;
      // Drawn at once, so that nothing asks about edits that are saved when the person is led on.
      flushSync(() => {
        apply((now) => arrived(now, versionOf(result, sent.now)));
        setSaving(STILL);
      });
      await moveOn(latest.current.becomes?.(result) ?? null);
      await Promise.all(refresh.map((queryKey) => queries.invalidateQueries({ queryKey })));
      onSaved?.(result);
      if (again.current) {
        again.current = false;
        if (isChanged(editing.current)) return save();
      }
      return result;
    },
    [apply, moveOn, queries],
  );

  useEffect(() => {
    if (saving.state !== "waiting") return;
    const again = () => void save();
    const timer = setTimeout(again, saving.seconds * 1000);
    window.addEventListener("online", again);
    return () => {
      clearTimeout(timer);
      window.removeEventListener("online", again);
    };
  }, [saving, save]);

  const settle = (step: Step<T>) => {
    setSaving(STILL);
    apply(step);
  };
  const { current } = editing;
  const overtaken = isOvertaken(current);
  return {
    now: edits.now,
    saved: edits.saved,
    /** The version that the edits began from. */
    begun: current.begun,
    changed: isChanged(current),
    edit: useCallback(
      (next: (now: T, saved: T) => T) =>
        apply((before) => change(before, next(before.edits.now, before.edits.saved), performance.now())),
      [apply],
    ),
    canUndo: edits.past.length > 0,
    canRedo: edits.future.length > 0,
    undo: useCallback(() => apply(goBack), [apply]),
    redo: useCallback(() => apply(goForth), [apply]),
    giveUp: useCallback(() => apply(giveUp), [apply]),
    save,
    saving,
    error: saving.state === "refused" ? saving.error : null,
    /** Whether this browser keeps drafts. */
    keepsDrafts: kept,
    restored: {
      at: current.restored,
      accept: useCallback(() => apply((before) => ({ ...before, restored: null })), [apply]),
    },
    conflict: {
      theirs: overtaken ? current.latest : null,
      clashes: current.clashes,
      takeTheirs: () => settle(takeTheirs),
      putOnTop: () => settle(putOnTop),
      keepMine: () => settle(keepMine),
      acceptClashes: useCallback(() => apply((before) => ({ ...before, clashes: null })), [apply]),
    },
  };
}

/** What a form needs of a document being edited, whatever its values. */
export type Edited<T> = ReturnType<typeof useEdited<T>>;
