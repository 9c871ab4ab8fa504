import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Campaign, CampaignDocument } from "@/api/campaigns";
import { type Over, type Proof, type ProofAsked, proofQuery } from "@/api/proofs";
import { differences } from "@/lib/document-diff";
import { isEdited } from "@/lib/edits";
import { useEdits } from "./useEdits";

/** Milliseconds without an edit after which the next one is proved without a pause. */
const PAUSE = 120;

/** The default of a proof: items of the last month. */
export const USUAL_OVER: Over = { days: 30, source: "", items: [], sample: null };

export type Change = (change: (document: CampaignDocument) => CampaignDocument) => void;

/** The rules being edited, and the proof that follows them. */
export function useBench(blog: string, campaign: Campaign) {
  const desk = useEdits(blog, campaign);
  const { edits } = desk;
  const [proved, setProved] = useState(edits.now);
  const [over, setOver] = useState<Over>(USUAL_OVER);
  const [against, setAgainst] = useState<number | null>(null);

  const lastEdit = useRef(Number.NEGATIVE_INFINITY);
  useEffect(() => {
    const idle = performance.now() - lastEdit.current;
    lastEdit.current = performance.now();
    const timer = setTimeout(() => setProved(edits.now), idle > PAUSE ? 0 : PAUSE);
    return () => clearTimeout(timer);
  }, [edits.now]);

  const asked = useMemo(() => ({ document: proved, over, against }), [proved, over, against]);
  // While the rules are invalid, the last proof stays visible with its request.
  const [last, setLast] = useState<{ proof: Proof; asked: ProofAsked } | null>(null);
  const query = useQuery(proofQuery(blog, campaign.slug, asked, last?.proof));
  const fresh = query.data && !query.isPlaceholderData ? query.data : null;
  useEffect(() => {
    if (fresh) setLast({ proof: fresh, asked });
  }, [fresh, asked]);
  // Proof and request always belong together, because items are looked up by both.
  const shown = fresh ? { proof: fresh, asked } : last;
  const edited = isEdited(edits);
  const changes = useMemo(() => differences(edits.saved, edits.now).length, [edits.saved, edits.now]);

  return {
    document: edits.now,
    saved: edits.saved,
    /** The revision that the edits began from. */
    revision: desk.revision,
    /** The request of the shown proof. */
    asked: shown?.asked ?? asked,
    over,
    setOver,
    against,
    setAgainst,
    change: desk.change as Change,
    edited,
    /** The number of differences from the saved rules. */
    changes: edited ? Math.max(1, changes) : 0,
    canUndo: edits.past.length > 0,
    canRedo: edits.future.length > 0,
    undo: desk.undo,
    redo: desk.redo,
    discard: useCallback(() => desk.change((_, saved) => saved), [desk.change]),
    conflict: desk.conflict,
    restored: desk.restored,
    afterSave: desk.afterSave,
    proof: {
      data: shown?.proof,
      error: query.error,
      refetch: query.refetch,
      /** Whether a proof of the present rules is pending. */
      due: query.isPlaceholderData || edits.now !== proved,
    },
  };
}

export type BenchState = ReturnType<typeof useBench>;
