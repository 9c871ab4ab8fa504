import type { PostState } from "@/api/posts";
import type { Stage, Verdict } from "@/api/proofs";
import { DESCRIBED_REASONS } from "./described";

export const STAGE_NAMES: Record<Stage, string> = {
  gather: "Gather",
  sift: "Sift",
  match: "Match",
  shape: "Shape",
  place: "Place",
  release: "Release",
};
export const STAGES = Object.keys(STAGE_NAMES) as Stage[];

export const VERDICT_WORDS: Record<Verdict, string> = {
  publish: "published",
  hold: "held for review",
  draft: "kept as a draft",
  private: "published privately",
  scheduled: "scheduled",
  waiting: "waits for a later run",
  refused: "refused",
  duplicate: "duplicate",
};

export const STATE_WORDS: Record<PostState, string> = {
  published: "Published",
  scheduled: "Scheduled",
  held: "Held",
  draft: "Draft",
  refused: "Refused",
  binned: "In the bin",
  gone: "Gone",
};

const REASONS: Record<string, string> = {
  ...DESCRIBED_REASONS,
  "gather.too_far_back": "too far back",
  "gather.too_early": "too early",
  "gather.other_source": "other source",
  "terms.no_term": "no term",
  "terms.missing": "term missing",
  "terms.forbidden": "unwanted term",
  "number.low": "too low",
  "number.high": "too high",
  "number.unknown": "not stated",
  "query.fails": "search",
  "query.holds": "search",
  "pattern.found": "pattern",
  "pattern.not_found": "pattern",
  "values.one_of": "unwanted value",
  "values.other": "other value",
  "values.unknown": "not stated",
  "group.fails": "group",
  "match.identity": "same identity",
  "match.link": "same link",
  "match.title": "same title",
  "match.product": "same product",
  "match.media": "same film",
  "match.keyword": "same keyword",
  "match.near_title": "similar title",
  "match.near_text": "similar text",
  "shape.empty": "empty",
  "shape.waits": "waits for its text",
  "shape.template_failed": "template error",
  "shape.failed": "failed",
  "release.full": "waits",
  "release.failed": "failed",
  hold: "held",
  draft: "drafts",
  private: "private",
  scheduled: "scheduled",
};

/** The reason an item left, as the funnel names it for many items at once. */
export function reasonName(code: string): string {
  return REASONS[code] ?? code;
}
