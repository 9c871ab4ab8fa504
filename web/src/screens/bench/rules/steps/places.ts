/** Where words of a text are replaced. */
export const PLACES = [
  { value: "body", label: "in the body" },
  { value: "title", label: "in the title" },
  { value: "both", label: "in title and body" },
] as const;
