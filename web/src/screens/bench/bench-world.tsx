import { screen, within } from "@testing-library/react";
import type { Campaign, CampaignDocument } from "@/api/campaigns";
import type { Proof, ProofAsked, ProofRow, Verdict } from "@/api/proofs";
import { newSiftRule } from "@/lib/rules";
import { NO_SCHEDULE } from "@/lib/schedule";
import { DEFAULTS, PROOF } from "@/testing/bench";
import { answering, type Call, screenAt } from "@/testing/server";
import Bench from "./Bench";

export const BASE = "/api/blogs/{blog}/campaigns/{slug}";
export const PROVE = `POST ${BASE}/proof`;
export const ITEM = `POST ${BASE}/proof/item`;
export const SAVE = `POST ${BASE}/revisions`;
export const RUN = `POST ${BASE}/runs`;

export const RULES: CampaignDocument = {
  ...DEFAULTS,
  gather: { ...DEFAULTS.gather, sources: ["club"] },
  sift: { rules: [{ ...newSiftRule("terms", []), id: "words", terms: ["sponsored"] } as never] },
};
export const CAMPAIGN = {
  slug: "sky",
  name: "Sky notes",
  revision: 3,
  document: RULES,
  schedule: NO_SCHEDULE,
  paused: false,
  next_run_at: null,
  time_zone: "UTC",
} as unknown as Campaign;

export function row(id: number, verdict: Verdict, was: ProofRow["was"] = null): ProofRow {
  const left_at = verdict === "refused" ? "sift" : null;
  return {
    id,
    title: `Story ${id}`,
    source: "Club",
    dated: "2026-11-24T12:00:00Z",
    words: 100 * id,
    categories: left_at ? [] : ["Sky"],
    verdict,
    left_at,
    reason: left_at ? { code: "terms.forbidden", rule: "words", data: {} } : null,
    was,
  } as unknown as ProofRow;
}

export const STAGES = ["gather", "sift", "match", "shape", "place", "release"] as const;

export function proofOf(items: ProofRow[]): Proof {
  const refused = items.filter(({ verdict }) => verdict === "refused").length;
  return {
    ...PROOF,
    items,
    stages: STAGES.map((stage, place) => ({
      stage,
      entered: items.length - (place > 1 ? refused : 0),
      left: stage === "sift" && refused ? [{ code: "terms.forbidden", rule: "words", count: refused }] : [],
    })),
    rules: { "sift.words": { against: refused, alone: refused, was_against: refused } },
  } as unknown as Proof;
}

export const SAVED = proofOf([row(1, "publish"), row(2, "hold"), row(3, "refused")]);
/** What an edit of the rules comes to: the third is let in. */
export const EDITED = proofOf([
  row(1, "publish"),
  row(2, "hold"),
  row(3, "publish", { verdict: "refused", left_at: "sift", moved: false, reworded: false } as never),
]);
export const DECISION = {
  verdict: "publish",
  left_at: null,
  trace: [
    {
      stage: "gather",
      code: "gathered",
      rule: "",
      against: false,
      data: { body: "full", words: 100, pictures: 0 },
    },
  ],
  item: { title: "Story 1", source: "Club", words: 100, published: null, text: "Text", facts: {}, media: [] },
};

export function show(answers: Record<string, unknown> = {}, at = "/desk/b/campaigns/sky") {
  const calls = answering({
    [`GET ${BASE}`]: CAMPAIGN,
    "GET /api/blogs/{blog}": { word_lists: [], term_tables: [], categories: [], tags: [], bylines: [] },
    "GET /api/blogs/{blog}/defaults": DEFAULTS,
    "GET /api/blogs/{blog}/sources": { rows: [{ key: "club", title: "Club" }], total: 1 },
    [PROVE]: ({ body }: Call) =>
      JSON.stringify((body as ProofAsked).document) === JSON.stringify(RULES) ? SAVED : EDITED,
    [ITEM]: DECISION,
    ...answers,
  });
  return {
    calls,
    ...screenAt(at, "/desk/:blog/campaigns/:slug", <Bench />),
  };
}

export async function addTerm(user: ReturnType<typeof show>["user"], term: string) {
  const card = await screen.findByRole("group", { name: "rule words" });
  await user.click(within(card).getByRole("button", { name: "add" }));
  await user.type(screen.getByLabelText("Terms: word"), `${term}{Enter}`);
}
