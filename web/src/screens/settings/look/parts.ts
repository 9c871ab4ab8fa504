import type { Part, Which } from "@/api/blogs";

export type PartKind = Part["kind"];
export type Place = NonNullable<Part["place"]>;

interface KindWords {
  label: string;
  hint: string;
  /** How many posts it has at first; none for parts without a number. */
  count?: number;
  /** Whether it takes posts by section, tag, source and kind. */
  chooses?: boolean;
}

/** What each kind of part is called, and what it shows. */
export const PART_KINDS: Record<PartKind, KindWords> = {
  day: { label: "Newest day", hint: "its date, with the number of stories and sources" },
  opener: { label: "Opener", hint: "one post, large", chooses: true },
  highlights: { label: "Highlights", hint: "cards beside each other", count: 3, chooses: true },
  briefs: { label: "Briefs", hint: "titles with their sources", count: 6, chooses: true },
  "most-read": { label: "Most read", hint: "titles that were read most", count: 5 },
  stills: { label: "Stills", hint: "a row of films, scrolled sideways", count: 8, chooses: true },
  tracks: { label: "Episodes", hint: "a list of sound", count: 5, chooses: true },
  table: { label: "Table", hint: "posts with their values in columns", count: 10, chooses: true },
  chosen: { label: "Chosen by hand", hint: "posts in your order" },
  sources: { label: "Sources", hint: "whose posts are the newest", count: 8 },
  words: { label: "Text of your own", hint: "paragraphs; addresses become links" },
  find: { label: "Search", hint: "the field for searching the blog" },
  newest: { label: "Newest", hint: "all other posts, with pages" },
};

export const PLACES: readonly { value: Place; label: string }[] = [
  { value: "whole", label: "over the whole width" },
  { value: "wide", label: "in the wide column" },
  { value: "narrow", label: "in the narrow column" },
];

export const ANY_POST: Which = { section: "", tag: "", source: "", post_kind: "" };

const USUAL_KIND: Partial<Record<PartKind, string>> = { stills: "film", tracks: "episode" };

/** A new part, with an id that none of these has. */
export function newPart(kind: PartKind, parts: readonly Part[]): Part {
  const { count, chooses } = PART_KINDS[kind];
  const taken = new Set(parts.map(({ id }) => id));
  let id: string = kind;
  for (let number = 2; taken.has(id); number++) id = `${kind}-${number}`;
  return {
    kind,
    id,
    heading: "",
    place: "whole",
    ...(chooses && { which: { ...ANY_POST, post_kind: USUAL_KIND[kind] ?? "" } }),
    ...(count && { count }),
    ...(kind === "chosen" && { posts: [] }),
    ...(kind === "most-read" && { days: 7 }),
    ...(kind === "words" && { text: "" }),
  } as Part;
}

/** The kinds that can be added: the newest and the day stand on a front once. */
export function kindsToAdd(parts: readonly Part[]): PartKind[] {
  const kinds = Object.keys(PART_KINDS) as PartKind[];
  return kinds.filter(
    (kind) => !["newest", "day"].includes(kind) || !parts.some((part) => part.kind === kind),
  );
}

/** The parts in another order. */
export function moved(parts: readonly Part[], from: number, to: number): Part[] {
  const next = [...parts];
  next.splice(to, 0, ...next.splice(from, 1));
  return next;
}
