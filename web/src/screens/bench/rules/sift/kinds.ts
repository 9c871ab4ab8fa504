import type { SiftKind } from "@/lib/rules";

/** The kinds of filter rules, as the menu names them. */
export const SIFT_KINDS: readonly { kind: SiftKind; label: string; hint: string }[] = [
  { kind: "terms", label: "Words and phrases", hint: "has any, all or none of them" },
  { kind: "query", label: "Search", hint: "words with AND, OR, NOT and quotes" },
  { kind: "number", label: "Number", hint: "words, pictures, price, rating …" },
  { kind: "age", label: "Age", hint: "published within so many hours or days" },
  { kind: "values", label: "Value", hint: "author, category, language … is one of" },
  { kind: "presence", label: "Has or lacks", hint: "picture, film, author, date …" },
  { kind: "pattern", label: "Pattern", hint: "a regular expression" },
  { kind: "group", label: "Group", hint: "all, any or none of several rules" },
];
