/** What a source allows, as words of a sentence. */
export const RIGHTS = [
  { value: "full", label: "the full text" },
  { value: "excerpt", label: "an excerpt" },
  { value: "link", label: "a link only" },
] as const;
