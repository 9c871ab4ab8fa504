import { type ReactNode, useState } from "react";
import type { CampaignDocument } from "@/api/campaigns";
import type { Proof } from "@/api/proofs";
import { type BenchState, USUAL_OVER } from "@/screens/bench/useBench";

/** The product’s own defaults, as the server returns them. */
export const DEFAULTS: CampaignDocument = {
  format: 1,
  gather: { sources: [], labels: [], look_back_days: null, not_before: null, at_most: null, body: "full" },
  sift: { rules: [] },
  match: {
    rules: [{ id: "identity", kind: "identity", title: "", on: true }],
    against: "blog",
    within_days: null,
    on_match: "refuse",
    prefer: ["earliest"],
    let_refused_back: false,
  },
  shape: {
    steps: [],
    lead: {
      order: ["feed", "enclosure", "text"],
      least_width: 0,
      least_height: 0,
      unknown_size_counts: true,
      pictures: [],
      take_out_of_body: true,
      pool: "",
    },
    copies: { pictures: false, recordings: false, most_mb: 100 },
    excerpt: { taken_from: "text", choice: "first", unit: "sentences", count: 3, ellipsis: "…" },
    excerpt_text: "{{ excerpt }}",
    fields: [],
    title: "{{ title }}",
    body: "{{ body }}",
    address: "{{ title }}",
    characters_a_day: null,
    description: "{{ excerpt }}",
  },
  place: {
    category: "",
    category_rules: [],
    at_most_categories: 3,
    tags: [],
    tag_rules: [],
    remove_tags: [],
    remove_lists: [],
    only_existing_tags: false,
    at_most_tags: null,
    byline: "",
    byline_from: "fixed",
    byline_table: [],
    date: "original",
    dates: { a_day: 3, first: null, last: null, hours: 24, hours_ahead: 0 },
    kind: "article",
    comments: false,
    pinned: false,
    visibility: "public",
    pass_phrase: "",
    language: "",
    canonical: "original",
  },
  release: {
    mode: "hold",
    hold_when: [],
    order: "oldest",
    at_most: null,
    pace: null,
    corrections: "show",
    withdrawn: "mark",
    sold_out: "mark",
    editions: [],
    together: false,
  },
};

export const PROOF: Proof = {
  token: "first",
  differs_from: "",
  as_of: "2026-11-24T12:00:00Z",
  milliseconds: 40,
  days: 30,
  revision: 1,
  undecided: 0,
  items: [],
  stages: [],
  rules: {},
  idle: {},
  holes: [],
};

interface WithBenchProps {
  begun?: CampaignDocument;
  proof?: Proof;
  error?: Error | null;
  seen: CampaignDocument[];
  children: (bench: BenchState) => ReactNode;
}

/** A bench without a server: edits are stored and shown, the proof stays the same. */
export function WithBench({ begun = DEFAULTS, proof = PROOF, error = null, seen, children }: WithBenchProps) {
  const [document, setDocument] = useState(begun);
  const [over, setOver] = useState(USUAL_OVER);
  const [against, setAgainst] = useState<number | null>(null);
  const nothing = () => {};
  return children({
    document,
    saved: begun,
    asked: { document, over, against },
    over,
    setOver,
    against,
    setAgainst,
    revision: 3,
    change: (next: (document: CampaignDocument) => CampaignDocument) => {
      const changed = next(document);
      seen.push(changed);
      setDocument(changed);
    },
    edited: document !== begun,
    changes: 1,
    canUndo: false,
    canRedo: false,
    conflict: { theirs: null, clashes: null },
    restored: { at: null },
    undo: nothing,
    redo: nothing,
    discard: nothing,
    proof: { data: proof, error, refetch: nothing, due: false },
  } as unknown as BenchState);
}
