import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Campaign, CampaignDocument } from "@/api/campaigns";
import { type Over, type Proof, type ProofAsked, proofQuery } from "@/api/proofs";
import { begin, type Edits, edit, isEdited, redo, same, undo } from "@/lib/edits";

/** Milliseconds without an edit, after which the next one is proved at once and not after a pause. */
const PAUSE = 120;

/** A proof looks at the items of the last month, unless the person chooses otherwise. */
export const USUAL_OVER: Over = { days: 30, source: "", items: [], sample: null };

export type Change = (change: (document: CampaignDocument) => CampaignDocument, join?: boolean) => void;

/** The rules being edited, and the proof that follows them after a short pause. */
export function useBench(blog: string, campaign: Campaign) {
  const [edits, setEdits] = useState<Edits<CampaignDocument>>(() => begin(campaign.document));
  const [proved, setProved] = useState(campaign.document);
  const [over, setOver] = useState<Over>(USUAL_OVER);
  const [against, setAgainst] = useState<number | null>(null);

  useEffect(() => {
    setEdits((before) => (same(before.saved, campaign.document) ? before : begin(campaign.document)));
  }, [campaign.document]);

  const lastEdit = useRef(Number.NEGATIVE_INFINITY);
  useEffect(() => {
    const idle = performance.now() - lastEdit.current;
    lastEdit.current = performance.now();
    const timer = setTimeout(() => setProved(edits.now), idle > PAUSE ? 0 : PAUSE);
    return () => clearTimeout(timer);
  }, [edits.now]);

  const change = useCallback<Change>(
    (next, join) => setEdits((before) => edit(before, next(before.now), join)),
    [],
  );
  const asked = useMemo(() => ({ document: proved, over, against }), [proved, over, against]);
  // While the rules do not hold, the last proof that could be made stays in sight, with what it was asked for.
  const [last, setLast] = useState<{ proof: Proof; asked: ProofAsked } | null>(null);
  const query = useQuery(proofQuery(blog, campaign.slug, asked, last?.proof));
  const fresh = query.data && !query.isPlaceholderData ? query.data : null;
  useEffect(() => {
    if (fresh) setLast({ proof: fresh, asked });
  }, [fresh, asked]);
  // Proof and question always belong together: an item is looked up by both.
  const shown = fresh ? { proof: fresh, asked } : last;

  return {
    document: edits.now,
    saved: edits.saved,
    /** What the proof that is shown was asked for. */
    asked: shown?.asked ?? asked,
    over,
    setOver,
    against,
    setAgainst,
    change,
    edited: isEdited(edits),
    steps: edits.past.length,
    canRedo: edits.future.length > 0,
    undo: useCallback(() => setEdits(undo), []),
    redo: useCallback(() => setEdits(redo), []),
    discard: useCallback(() => setEdits((before) => edit(before, before.saved)), []),
    proof: {
      data: shown?.proof,
      error: query.error,
      refetch: query.refetch,
      /** Whether a proof of the rules as they stand is still to come. */
      due: query.isPlaceholderData || edits.now !== proved,
    },
  };
}

export type BenchState = ReturnType<typeof useBench>;
