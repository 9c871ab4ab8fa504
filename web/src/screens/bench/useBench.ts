import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { type Campaign, type CampaignDocument, campaignQuery, saveRevision } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { type Over, type Proof, type ProofAsked, proofQuery } from "@/api/proofs";
import { useEdited } from "@/components/editing/useEdited";
import { differences } from "@/lib/document-diff";
import { useTell } from "@/ui/Toasts";

/** Milliseconds without an edit after which the next one is proved without a pause. */
const PAUSE = 120;

/** The default of a proof: items of the last month. */
export const USUAL_OVER: Over = { days: 30, source: "", items: [], sample: null };

export type Change = (change: (document: CampaignDocument) => CampaignDocument) => void;

function versionOf({ revision, document }: Campaign) {
  return { number: revision, value: document };
}

/** The rules of a campaign being edited. */
function useRules(blog: string, campaign: Campaign) {
  const queries = useQueryClient();
  const tell = useTell();
  const { slug } = campaign;
  const { queryKey } = campaignQuery(blog, slug);
  return useEdited<CampaignDocument, Campaign>({
    document: `campaign ${blog}/${slug}`,
    saved: useMemo(() => versionOf(campaign), [campaign]),
    save: (document, base, _was, note) => saveRevision(blog, slug, { document, base, note }),
    versionOf: (saved) => {
      queries.setQueryData(queryKey, saved);
      return versionOf(saved);
    },
    fetchLatest: async () =>
      versionOf(await queries.fetchQuery({ ...campaignQuery(blog, slug), staleTime: 0 })),
    refresh: [keys.campaigns(blog), keys.proof(blog, slug), keys.campaign(blog, slug, "revisions")],
    onSaved: (saved) => tell(`Saved as revision ${saved.revision}.`),
  });
}

/** The rules being edited, and the proof that follows them. */
export function useBench(blog: string, campaign: Campaign) {
  const rules = useRules(blog, campaign);
  const { now, saved } = rules;
  const [proved, setProved] = useState(now);
  const [over, setOver] = useState<Over>(USUAL_OVER);
  const [against, setAgainst] = useState<number | null>(null);

  const lastEdit = useRef(Number.NEGATIVE_INFINITY);
  useEffect(() => {
    const idle = performance.now() - lastEdit.current;
    lastEdit.current = performance.now();
    const timer = setTimeout(() => setProved(now), idle > PAUSE ? 0 : PAUSE);
    return () => clearTimeout(timer);
  }, [now]);

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
  const changes = useMemo(() => differences(saved, now).length, [saved, now]);

  return {
    rules,
    document: now,
    saved,
    /** The revision that the edits began from. */
    revision: rules.begun,
    /** The request of the shown proof. */
    asked: shown?.asked ?? asked,
    over,
    setOver,
    against,
    setAgainst,
    change: rules.edit as Change,
    edited: rules.changed,
    /** The number of differences from the saved rules. */
    changes: rules.changed ? Math.max(1, changes) : 0,
    canUndo: rules.canUndo,
    canRedo: rules.canRedo,
    undo: rules.undo,
    redo: rules.redo,
    discard: rules.giveUp,
    proof: {
      data: shown?.proof,
      error: query.error,
      refetch: query.refetch,
      /** Whether a proof of the present rules is pending. */
      due: query.isPlaceholderData || now !== proved,
    },
  };
}

export type BenchState = ReturnType<typeof useBench>;
