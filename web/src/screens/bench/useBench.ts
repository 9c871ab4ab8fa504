import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import type { Campaign, CampaignDocument } from "@/api/campaigns";
import { proofQuery } from "@/api/proofs";
import { begin, type Edits, edit, isEdited, redo, same, undo } from "@/lib/edits";

const PAUSE = 120;

export type Change = (change: (document: CampaignDocument) => CampaignDocument, join?: boolean) => void;

/** The rules being edited, and the proof that follows them after a short pause. */
export function useBench(blog: string, campaign: Campaign) {
  const [edits, setEdits] = useState<Edits<CampaignDocument>>(() => begin(campaign.document));
  const [proved, setProved] = useState(campaign.document);

  useEffect(() => {
    setEdits((before) => (same(before.saved, campaign.document) ? before : begin(campaign.document)));
  }, [campaign.document]);

  useEffect(() => {
    const timer = setTimeout(() => setProved(edits.now), PAUSE);
    return () => clearTimeout(timer);
  }, [edits.now]);

  const change = useCallback<Change>(
    (next, join) => setEdits((before) => edit(before, next(before.now), join)),
    [],
  );
  const query = useQuery(proofQuery(blog, campaign.slug, proved));
  const [lastProof, setLastProof] = useState(query.data);
  useEffect(() => {
    if (query.data) setLastProof(query.data);
  }, [query.data]);

  return {
    document: edits.now,
    saved: edits.saved,
    proved,
    change,
    edited: isEdited(edits),
    steps: edits.past.length,
    canRedo: edits.future.length > 0,
    undo: useCallback(() => setEdits(undo), []),
    redo: useCallback(() => setEdits(redo), []),
    discard: useCallback(() => setEdits((before) => edit(before, before.saved)), []),
    // While the rules do not hold, the last proof that could be made stays in sight.
    proof: {
      data: query.data ?? lastProof,
      error: query.error,
      refetch: query.refetch,
      /** Whether a proof of the rules as they stand is still to come. */
      due: query.isPlaceholderData || edits.now !== proved,
    },
  };
}

export type BenchState = ReturnType<typeof useBench>;
