/** What a source allows, as words of a sentence. */
export const RIGHTS = [
  { value: "full", label: "the full text" },
  { value: "excerpt", label: "an excerpt" },
  { value: "link", label: "a link only" },
] as const;

export type Right = (typeof RIGHTS)[number]["value"];

/** What a person says of a new source; nothing where they do not know. */
export type SaidRight = Right | "unsaid";

/** The answers to what posts may carry of a new source. */
export const SAID_RIGHTS = [
  { value: "unsaid", label: "an excerpt until I know" },
  { value: "full", label: "the full text: it is mine, or I am allowed to" },
  { value: "excerpt", label: "an excerpt and the link" },
  { value: "link", label: "the title and the link" },
] as const;

/** The answer as the API takes it. */
export function sentRight(said: SaidRight): Right | null {
  return said === "unsaid" ? null : said;
}
