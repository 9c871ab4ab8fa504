import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Campaign, CampaignDocument } from "@/api/campaigns";
import { type Session, sessionQuery } from "@/api/session";
import { draftOf, dropDraft, keepDraft } from "@/lib/drafts";
import { begin, type Edits, edit, isEdited, redo, same, undo } from "@/lib/edits";
import { merge } from "@/lib/merge";

interface State {
  edits: Edits<CampaignDocument>;
  /** The revision that the edits began from. */
  revision: number;
  /** The time of the draft that the edits came from. */
  restored: string | null;
  /** Paths where my edits replaced another person's after a merge. */
  clashes: readonly string[] | null;
}

type EditOf = (now: CampaignDocument, saved: CampaignDocument) => CampaignDocument;

const KEEP_AFTER = 300;

function firstState(person: string, blog: string, campaign: Campaign): State {
  const draft = draftOf(person, blog, campaign.slug);
  const none = { restored: null, clashes: null };
  if (!draft || same(draft.now, campaign.document))
    return { ...none, edits: begin(campaign.document), revision: campaign.revision };
  return { ...none, edits: begin(draft.saved, draft.now), revision: draft.revision, restored: draft.at };
}

function savedBy(state: State, campaign: Campaign): State {
  return {
    ...state,
    edits: { ...state.edits, saved: campaign.document },
    revision: campaign.revision,
    restored: null,
    clashes: null,
  };
}

/** The edits of one campaign: with undo, a draft in the browser, and merging. */
export function useEdits(blog: string, campaign: Campaign) {
  const person = useQueryClient().getQueryData<Session>(sessionQuery.queryKey)?.name ?? "";
  const { slug } = campaign;
  const [state, setState] = useState(() => firstState(person, blog, campaign));

  useEffect(() => {
    setState((before) => {
      if (before.revision === campaign.revision) return before;
      // Another person has saved; without edits, continue from there.
      const mayFollow = !isEdited(before.edits) || same(before.edits.now, campaign.document);
      return mayFollow
        ? { edits: begin(campaign.document), revision: campaign.revision, restored: null, clashes: null }
        : before;
    });
  }, [campaign]);

  const { edits, revision } = state;
  const latest = useRef(state);
  latest.current = state;
  const keep = useCallback(() => {
    const { edits, revision } = latest.current;
    if (!isEdited(edits)) dropDraft(person, blog, slug);
    else
      keepDraft(person, blog, slug, {
        revision,
        saved: edits.saved,
        now: edits.now,
        at: new Date().toISOString(),
      });
  }, [person, blog, slug]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a draft is kept after each edit
  useEffect(() => {
    const timer = setTimeout(keep, KEEP_AFTER);
    return () => clearTimeout(timer);
  }, [edits, keep]);
  useEffect(() => {
    window.addEventListener("pagehide", keep);
    return () => {
      window.removeEventListener("pagehide", keep);
      keep();
    };
  }, [keep]);

  const change = useCallback(
    (next: EditOf) =>
      setState((before) => {
        const edits = edit(before.edits, next(before.edits.now, before.edits.saved), performance.now());
        return edits === before.edits ? before : { ...before, edits };
      }),
    [],
  );
  const theirs = revision === campaign.revision ? null : campaign;
  return {
    edits,
    revision,
    change,
    undo: useCallback(() => setState((before) => ({ ...before, edits: undo(before.edits) })), []),
    redo: useCallback(() => setState((before) => ({ ...before, edits: redo(before.edits) })), []),
    /** My rules are revision `saved` now; edits made during saving stay. */
    afterSave: useCallback((saved: Campaign) => setState((before) => savedBy(before, saved)), []),
    restored: {
      at: state.restored,
      accept: useCallback(() => setState((before) => ({ ...before, restored: null })), []),
    },
    conflict: {
      theirs,
      clashes: state.clashes,
      /** Adopt their rules; undo restores mine. */
      takeTheirs: () =>
        theirs &&
        setState((before) => {
          const followed = savedBy(before, theirs);
          return { ...followed, edits: edit(followed.edits, theirs.document, performance.now()) };
        }),
      /** Merge my edits into theirs. */
      putOnTop: () =>
        theirs &&
        setState((before) => {
          const made = merge(before.edits.saved, before.edits.now, theirs.document);
          const followed = savedBy(before, theirs);
          const edits = edit(followed.edits, made.document, performance.now());
          return { ...followed, edits, clashes: made.clashes };
        }),
      /** Keep my rules, which become the revision after theirs. */
      keepMine: () => theirs && setState((before) => savedBy(before, theirs)),
      acceptClashes: useCallback(() => setState((before) => ({ ...before, clashes: null })), []),
    },
  };
}
