import type { Note } from "@/api/proofs";
import { day, plural } from "../format";
import { type Data, hits, list, number, text, type Wordings } from "./data";
import { DESCRIBED } from "./described";

const AMOUNTS: Record<string, string> = {
  words: "words",
  title_words: "words in the title",
  pictures: "pictures",
  rating: "rating",
  views: "views",
  length: "seconds",
  price: "price",
};

function terms(note: Note): string {
  return hits(note)
    .map((hit) => hit.term)
    .join(", ");
}

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

function groupWords(data: Data): string {
  const parts: unknown = data.parts;
  const all = Array.isArray(parts) ? (parts as { rule: string; passed: boolean }[]) : [];
  const said = all.map((part) => `${part.rule} ${part.passed ? "holds" : "does not"}`);
  return `${text(data, "mode")} of: ${said.join(", ")}`;
}

const PAGES: Record<string, string> = {
  taken: "; the text comes from its page",
  shorter: "; its page has no more text than the feed",
  not_found: "; the text was not found on its page",
  unread: "; its page could not be read",
  consent: "; its page only asks for consent",
  login: "; its page asks for a sign-in",
  paywall: "; its page is behind a pay-wall",
  error: "; its page is an error page",
  scripted: "; its page is drawn by scripts and empty without them",
};

/** The outcome of fetching an item's page for its text. */
function pageWords(page: string): string {
  return PAGES[page] ?? "";
}

/** Gather and Sift. */
export const SIFT: Wordings = {
  ...DESCRIBED,
  gathered: ({ data }) => ({
    strong: "",
    rest: `${data.body === "full" ? "full text" : "summary"} of ${plural(number(data, "words"), "word")}, ${plural(number(data, "pictures"), "picture")}${pageWords(text(data, "page"))}`,
  }),
  "gather.other_source": () => ({ strong: "other source", rest: "its source is not part of this campaign" }),
  "gather.too_far_back": ({ data }) => ({
    strong: "too far back",
    rest: `more than ${number(data, "look_back_days")} days`,
  }),
  "gather.too_early": ({ data }) => ({
    strong: "too early",
    rest: `the campaign begins on ${day(text(data, "not_before"))}`,
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
  "query.holds": ({ data }) => ({ strong: "matches", rest: text(data, "query") }),
  "query.fails": ({ data }) => ({ strong: "does not match", rest: text(data, "query") }),
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
  "group.holds": ({ data }) => ({ strong: "", rest: groupWords(data) }),
  "group.fails": ({ data }) => ({ strong: "group", rest: groupWords(data) }),
};
