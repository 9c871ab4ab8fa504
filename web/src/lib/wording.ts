import type { PostState } from "@/api/posts";
import type { Note, Stage, Verdict } from "@/api/proofs";
import { hours, moment, plural } from "./format";

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

const AMOUNTS: Record<string, string> = {
  words: "words",
  title_words: "words in the title",
  pictures: "pictures",
  rating: "rating",
  views: "views",
  length: "seconds",
  price: "price",
};

function amountName(data: Data): string {
  return AMOUNTS[text(data, "field")] ?? text(data, "name");
}

function amount(data: Data): string {
  const name = amountName(data);
  const value = number(data, "number");
  return ["rating", "price"].includes(text(data, "field")) || !AMOUNTS[text(data, "field")]
    ? `${name} ${value}`
    : `${value} ${name}`;
}

function traitName(data: Data): string {
  return text(data, "trait") === "custom" ? text(data, "name") : text(data, "trait");
}

function groupWords(data: Data): string {
  const parts: unknown = data.parts;
  const all = Array.isArray(parts) ? (parts as { rule: string; passed: boolean }[]) : [];
  const said = all.map((part) => `${part.rule} ${part.passed ? "holds" : "does not"}`);
  return `${text(data, "mode")} of: ${said.join(", ")}`;
}

function age(data: Data): string {
  const value = number(data, "hours");
  return value < 48 ? `${plural(value, "hour")} old` : `${Math.floor(value / 24)} days old`;
}

function matched(data: Data): string {
  const where = data.within_pass ? "an item of the same pass" : "a post";
  return `${where}: “${text(data, "title")}”`;
}

function rightWords(data: Data): string {
  return data.right === "full" ? "full text" : `an excerpt of ${number(data, "limit")} words`;
}

function removedAndChanged(data: Data): string {
  return `${number(data, "removed")} removed, ${number(data, "changed")} changed`;
}

function alike(data: Data): string {
  return `${number(data, "likeness").toFixed(2)} alike`;
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
  "number.low": ({ data }) => ({ strong: amount(data), rest: `needs ${text(data, "at_least")}` }),
  "number.high": ({ data }) => ({ strong: amount(data), rest: `at most ${text(data, "at_most")}` }),
  "number.within": ({ data }) => ({ strong: "", rest: amount(data) }),
  "number.unknown": ({ data }) => ({
    strong: `no ${amountName(data)}`,
    rest: "the source does not state it",
  }),
  "query.holds": ({ data }) => ({ strong: "answers", rest: text(data, "query") }),
  "query.fails": ({ data }) => ({ strong: "does not answer", rest: text(data, "query") }),
  "pattern.found": ({ data }) => ({ strong: "matches", rest: text(data, "pattern") }),
  "pattern.not_found": ({ data }) => ({ strong: "no match", rest: text(data, "pattern") }),
  "values.one_of": ({ data }) => ({
    strong: text(data, "field"),
    rest: `is ${list(data, "values").join(", ")}`,
  }),
  "values.other": ({ data }) => ({
    strong: `other ${text(data, "field")}`,
    rest: list(data, "values").join(", "),
  }),
  "values.unknown": ({ data }) => ({
    strong: `no ${text(data, "field")}`,
    rest: "the source does not state it",
  }),
  "presence.there": ({ data }) => ({ strong: `has ${traitName(data)}`, rest: "" }),
  "presence.lacking": ({ data }) => ({ strong: `no ${traitName(data)}`, rest: "" }),
  "group.holds": ({ data }) => ({ strong: "", rest: groupWords(data) }),
  "group.fails": ({ data }) => ({ strong: "group", rest: groupWords(data) }),
  "age.old": ({ data }) => ({ strong: age(data), rest: `limit ${hours(number(data, "within_hours"))}` }),
  "age.within": ({ data }) => ({ strong: "", rest: age(data) }),
  "match.new": ({ data }) => ({
    strong: "new",
    rest: `nothing alike in ${{ campaign: "this campaign", blog: "this blog", everything: "any blog" }[text(data, "against")] ?? ""}`,
  }),
  "match.identity": ({ data }) => ({ strong: "same identity", rest: matched(data) }),
  "match.link": ({ data }) => ({ strong: "same link", rest: matched(data) }),
  "match.title": ({ data }) => ({ strong: "same title", rest: matched(data) }),
  "match.product": ({ data }) => ({ strong: "same product", rest: matched(data) }),
  "match.media": ({ data }) => ({ strong: "same film or sound", rest: matched(data) }),
  "match.keyword": ({ data }) => ({ strong: "same keyword", rest: matched(data) }),
  "match.near_title": ({ data }) => ({ strong: `${alike(data)} title`, rest: matched(data) }),
  "match.near_text": ({ data }) => ({ strong: `${alike(data)} text`, rest: matched(data) }),
  "step.drop_paragraphs": ({ data }) => ({
    strong: "took out",
    rest: list(data, "dropped")
      .map((part) => `“${part}”`)
      .join(", "),
  }),
  "step.select": ({ data }) => ({
    strong: data.mode === "keep" ? "kept only" : "removed",
    rest: plural(number(data, "elements"), "element"),
  }),
  "step.cut": ({ data }) => ({
    strong: `cut ${text(data, "side")}`,
    rest: `${plural(number(data, "blocks"), "paragraph")} at “${text(data, "at")}”`,
  }),
  "step.links": ({ data }) => ({ strong: "links", rest: removedAndChanged(data) }),
  "step.pictures": ({ data }) => ({ strong: "pictures", rest: removedAndChanged(data) }),
  "step.shorten": ({ data }) =>
    data.after
      ? { strong: "shortened", rest: `“${text(data, "before")}” → “${text(data, "after")}”` }
      : { strong: "shortened", rest: `${number(data, "kept")} of ${number(data, "words")} words` },
  "step.replace": ({ data }) => ({ strong: "replaced", rest: list(data, "replaced").join(", ") }),
  "step.table": ({ data }) => ({ strong: "replaced", rest: list(data, "replaced").join(", ") }),
  "step.standing": ({ data }) => ({ strong: `added ${text(data, "side")}`, rest: `“${text(data, "text")}”` }),
  "step.tidy": ({ data }) => ({
    strong: "tidied",
    rest: Object.entries(data)
      .map(([what, times]) => `${what} ${times}`)
      .join(", "),
  }),
  "step.nothing": () => ({ strong: "", rest: "nothing to change" }),
  lead: ({ data }) => ({
    strong: "lead image",
    rest: `from ${LEADS[text(data, "from")] ?? ""}${tooSmall(data)}`,
  }),
  "lead.none": ({ data }) => ({ strong: "", rest: `no picture found${tooSmall(data)}` }),
  fields: ({ data }) => ({ strong: "fields", rest: fieldWords(data) }),
  "fields.unread": ({ data }) => ({ strong: "a field could not be read", rest: fieldWords(data) }),
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
    rest: `${data.line ? `line ${text(data, "line")}, column ${text(data, "column")}: ` : ""}${text(data, "message")}`,
  }),
  "category.given": ({ data }) => ({ strong: "category", rest: givenWords(data) }),
  "category.nothing": () => ({ strong: "", rest: "no category by this rule" }),
  "tags.given": ({ data }) => ({ strong: "tags", rest: givenWords(data) }),
  "tags.nothing": () => ({ strong: "", rest: "no tag by this rule" }),
  placed: ({ data }) => ({ strong: text(data, "category") || "no category", rest: placement(data) }),
  "rights.kept": ({ data }) => ({ strong: "", rest: `the source allows ${rightWords(data)}` }),
  "rights.cut": ({ data }) => ({
    strong: "cut to what the source allows",
    rest: `${rightWords(data)}, it had ${number(data, "words")}`,
  }),
  "rights.link": () => ({ strong: "link only", rest: "the source allows no text and no picture" }),
  published: () => ({ strong: "published", rest: "nothing spoke against it" }),
  "held.by_campaign": () => ({ strong: "held for review", rest: "this campaign holds all it makes" }),
  "held.by_rule": ({ data }) => ({
    strong: "held for review",
    rest: `a rule asked for it: ${list(data, "rules").join(", ")}`,
  }),
  private: () => ({ strong: "published privately", rest: "for the people of this blog" }),
  scheduled: ({ data }) => ({ strong: "scheduled", rest: `for ${moment(text(data, "at"))}` }),
  "scheduled.by_pace": ({ data }) => ({
    strong: "scheduled",
    rest: `the pace is reached; it goes out ${moment(text(data, "at"))}`,
  }),
  "release.full": ({ data }) => ({
    strong: "waits",
    rest: `${number(data, "limit")} a ${text(data, "per")} are reached; a later run takes it`,
  }),
  "hold.no": () => ({ strong: "", rest: "no reason to hold it" }),
  "hold.no_picture": () => ({ strong: "no lead image", rest: "" }),
  "hold.few_words": ({ data }) => ({
    strong: `${number(data, "words")} words`,
    rest: `fewer than ${number(data, "fewer_than")}`,
  }),
  "hold.no_category": ({ data }) => ({
    strong: "no category of its own",
    rest: text(data, "category") ? `only the usual one, ${text(data, "category")}` : "",
  }),
  "hold.words": ({ data }) => ({ strong: "still has", rest: list(data, "terms").join(", ") }),
  "hold.unread_field": ({ data }) => ({ strong: "field not read", rest: list(data, "fields").join(", ") }),
  drafted: () => ({ strong: "kept as a draft", rest: "" }),
};

interface Given {
  name: string;
  because?: string;
  value?: string;
  text?: string;
}

function given(data: Data, key: string): Given[] {
  const value: unknown = data[key];
  return Array.isArray(value) ? (value as Given[]) : [];
}

function givenWords(data: Data): string {
  const said = given(data, "given").map(({ name, because }) =>
    because && because.toLowerCase() !== name.toLowerCase() ? `${name} (for ${because})` : name,
  );
  return said.join(", ");
}

function fieldWords(data: Data): string {
  const filled = given(data, "filled").map(({ name, value }) => `${name}: ${value}`);
  const unread = given(data, "unread").map(({ name, text: words }) => `${name} cannot hold “${words}”`);
  return [...unread, ...filled].join(" · ") || "none has a value";
}

function tooSmall(data: Data): string {
  const small = number(data, "too_small");
  return small ? `; ${plural(small, "picture")} too small` : "";
}

const LEADS: Record<string, string> = {
  feed: "the feed",
  enclosure: "the enclosure",
  page: "the linked page",
  text: "the text",
  house: "the house’s own",
};

const DATES: Record<string, string> = {
  original: "its own date",
  import: "date of the run",
  a_day: "next free place of the day",
  between: "spread between two moments",
  random: "drawn at random",
};

function placement(data: Data): string {
  const parts = [];
  if (data.fell_back) parts.push("the usual one, as no rule found another");
  const tags = list(data, "tags");
  if (tags.length) parts.push(`tags ${tags.join(", ")}`);
  if (text(data, "byline")) parts.push(`byline ${text(data, "byline")}`);
  parts.push(
    data.in_future
      ? "dated now, as its date lies ahead"
      : (DATES[text(data, "date_from")] ?? text(data, "date_from")),
  );
  const visibility = text(data, "visibility");
  if (visibility && visibility !== "public")
    parts.push(visibility === "phrase" ? "with a pass phrase" : "private");
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
  "presence.there": "unwanted part",
  "presence.lacking": "part lacking",
  "group.fails": "group",
  "age.old": "too old",
  "match.identity": "same identity",
  "match.link": "same link",
  "match.title": "same title",
  "match.product": "same product",
  "match.media": "same film",
  "match.keyword": "same keyword",
  "match.near_title": "near title",
  "match.near_text": "near text",
  "shape.empty": "empty",
  "shape.template_failed": "template failed",
  "release.full": "waits",
  hold: "held",
  draft: "drafts",
  private: "private",
  scheduled: "scheduled",
};

/** The reason an item left, as the funnel names it for many items at once. */
export function reasonName(code: string): string {
  return REASONS[code] ?? code;
}
