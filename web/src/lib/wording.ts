import type { PostState } from "@/api/posts";
import type { Note, Stage, Verdict } from "@/api/proofs";
import { hours, plural } from "./format";

/** A trace is codes and values; here it is put into words. `strong` is the part that decides. */
export interface Words {
  strong: string;
  rest: string;
}

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
  refused: "refused",
  duplicate: "duplicate",
};

export const STATE_WORDS: Record<PostState, string> = {
  published: "Published",
  held: "Held",
  draft: "Draft",
  refused: "Refused",
};

type Data = Note["data"];

function text(data: Data, key: string): string {
  const value: unknown = data[key];
  return value === null || value === undefined ? "" : String(value);
}

function number(data: Data, key: string): number {
  return Number(data[key] ?? 0);
}

export function list(data: Data, key: string): string[] {
  const value: unknown = data[key];
  return Array.isArray(value) ? value.map(String) : [];
}

export interface TermHit {
  term: string;
  in: string;
  start: number;
  end: number;
  before: string;
  match: string;
  after: string;
  times: number;
}

export function hits(note: Note): TermHit[] {
  const value: unknown = note.data.hits;
  return Array.isArray(value) ? (value as TermHit[]) : [];
}

function terms(note: Note): string {
  return hits(note)
    .map((hit) => hit.term)
    .join(", ");
}

function age(data: Data): string {
  const value = number(data, "hours");
  return value < 48 ? `${plural(value, "hour")} old` : `${Math.floor(value / 24)} days old`;
}

function matched(data: Data): string {
  const where = data.within_pass ? "an item of the same pass" : "a post";
  return `${where}: “${text(data, "title")}”`;
}

const WORDINGS: Record<string, (note: Note) => Words> = {
  gathered: ({ data }) => ({
    strong: "",
    rest: `${data.body === "full" ? "full text" : "summary"} of ${number(data, "words")} words, ${number(data, "pictures")} media`,
  }),
  "gather.other_source": () => ({ strong: "other source", rest: "its source is not part of this campaign" }),
  "gather.too_far_back": ({ data }) => ({
    strong: "too far back",
    rest: `more than ${number(data, "look_back_days")} days`,
  }),
  "terms.found": (note) => ({ strong: "has", rest: terms(note) }),
  "terms.no_term": () => ({ strong: "no term", rest: "none of the terms is there" }),
  "terms.missing": ({ data }) => ({ strong: "term missing", rest: list(data, "missing").join(", ") }),
  "terms.absent": () => ({ strong: "", rest: "has none of the unwanted terms" }),
  "terms.forbidden": (note) => ({ strong: "unwanted term", rest: terms(note) }),
  "words.few": ({ data }) => ({
    strong: `${number(data, "words")} words`,
    rest: `needs ${number(data, "at_least")}`,
  }),
  "words.many": ({ data }) => ({
    strong: `${number(data, "words")} words`,
    rest: `at most ${number(data, "at_most")}`,
  }),
  "words.within": ({ data }) => ({ strong: "", rest: `${number(data, "words")} words` }),
  "age.old": ({ data }) => ({ strong: age(data), rest: `limit ${hours(number(data, "within_hours"))}` }),
  "age.within": ({ data }) => ({ strong: "", rest: age(data) }),
  "match.new": ({ data }) => ({
    strong: "new",
    rest: `nothing alike in ${{ campaign: "this campaign", blog: "this blog", everything: "any blog" }[text(data, "against")] ?? ""}`,
  }),
  "match.identity": ({ data }) => ({ strong: "same identity", rest: matched(data) }),
  "match.link": ({ data }) => ({ strong: "same link", rest: matched(data) }),
  "match.title": ({ data }) => ({ strong: "same title", rest: matched(data) }),
  "step.drop_paragraphs": ({ data }) => ({
    strong: "took out",
    rest: list(data, "dropped")
      .map((part) => `“${part}”`)
      .join(", "),
  }),
  "step.nothing": () => ({ strong: "", rest: "nothing to change" }),
  lead: ({ data }) => ({
    strong: "lead image",
    rest: `from ${{ feed: "the feed", enclosure: "the enclosure", text: "the text" }[text(data, "from")] ?? ""}`,
  }),
  "lead.none": () => ({ strong: "", rest: "no picture found" }),
  excerpt: ({ data }) => ({
    strong: "excerpt",
    rest: `${number(data, "words")} words of the ${text(data, "from")}`,
  }),
  "shape.empty": ({ data }) => ({
    strong: "empty",
    rest: data.title ? "no text is left" : "no title is left",
  }),
  "shape.template_failed": ({ data }) => ({
    strong: "template failed",
    rest: `${data.line ? `line ${text(data, "line")}: ` : ""}${text(data, "message")}`,
  }),
  placed: ({ data }) => ({ strong: text(data, "category") || "no category", rest: placement(data) }),
  published: () => ({ strong: "published", rest: "nothing spoke against it" }),
  "held.by_campaign": () => ({ strong: "held for review", rest: "this campaign holds all it makes" }),
  "held.by_rule": ({ data }) => ({
    strong: "held for review",
    rest: `a rule asked for it: ${list(data, "rules").join(", ")}`,
  }),
  drafted: () => ({ strong: "kept as a draft", rest: "" }),
};

function placement(data: Data): string {
  const parts = [];
  const tags = list(data, "tags");
  if (tags.length) parts.push(`tags ${tags.join(", ")}`);
  if (text(data, "byline")) parts.push(`byline ${text(data, "byline")}`);
  parts.push(
    data.in_future ? "dated now, as its own date is in the future" : `${text(data, "date_from")} date`,
  );
  return parts.join(" · ");
}

export function wordsOf(note: Note): Words {
  const wording = WORDINGS[note.code];
  return wording ? wording(note) : { strong: note.code, rest: "" };
}

const REASONS: Record<string, string> = {
  "gather.too_far_back": "too far back",
  "gather.other_source": "other source",
  "terms.no_term": "no term",
  "terms.missing": "term missing",
  "terms.forbidden": "unwanted term",
  "words.few": "too few words",
  "words.many": "too many words",
  "age.old": "too old",
  "match.identity": "same identity",
  "match.link": "same link",
  "match.title": "same title",
  "shape.empty": "empty",
  "shape.template_failed": "template failed",
  hold: "held",
  draft: "drafts",
};

/** The reason an item left, as the funnel names it for many items at once. */
export function reasonName(code: string): string {
  return REASONS[code] ?? code;
}
