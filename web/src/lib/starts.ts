import type { CampaignDocument } from "@/api/campaigns";
import { newSiftRule, startingDocument } from "./rules";

type Step = CampaignDocument["shape"]["steps"][number];
type Mode = "publish" | "hold" | "draft";

export interface Start {
  key: string;
  title: string;
  text: string;
  /** What the start changes in a document of defaults. */
  change: (document: CampaignDocument) => CampaignDocument;
}

const LEFTOVERS: Step = {
  id: "leftovers",
  kind: "drop_paragraphs",
  on: true,
  terms: ["originally posted", "first appeared"],
};
const TIDY: Step = {
  id: "tidy",
  kind: "tidy",
  on: true,
  empty: true,
  styles: true,
  pixels: true,
  spaces: true,
  quotes: false,
};

/** Starting points, named by what they are for. */
export const STARTS: readonly Start[] = [
  {
    key: "headlines",
    title: "Headlines with a link back",
    text: "A short excerpt, the picture, and the way to the original.",
    change: (document) => ({
      ...document,
      shape: {
        ...document.shape,
        excerpt: { ...document.shape.excerpt, taken_from: "summary", unit: "words", count: 40 },
      },
    }),
  },
  {
    key: "articles",
    title: "Full articles of a trusted source",
    text: "The whole text, tidied up, without lines left over from elsewhere.",
    change: (document) => ({
      ...document,
      shape: { ...document.shape, steps: [LEFTOVERS, TIDY], body: "{{ body }}" },
    }),
  },
  {
    key: "topic",
    title: "One topic out of a wide stream",
    text: "Only what has the words you name; change them on the bench.",
    change: (document) => ({
      ...document,
      sift: {
        rules: [
          {
            ...newSiftRule("terms", []),
            id: "topic",
            mode: "any",
            terms: ["change these words"],
          } as CampaignDocument["sift"]["rules"][number],
          ...document.sift.rules,
        ],
      },
    }),
  },
  {
    key: "pictures",
    title: "Pictures first",
    text: "Only items with a picture; the picture stays large, the text short.",
    change: (document) => ({
      ...document,
      sift: { rules: [newSiftRule("presence", [])] },
      shape: { ...document.shape, excerpt: { ...document.shape.excerpt, unit: "sentences", count: 1 } },
    }),
  },
  {
    key: "news",
    title: "Fresh news, never twice",
    text: "Nothing older than two days; the same story of several sources is one post that names them all.",
    change: (document) => ({
      ...document,
      sift: {
        rules: [
          { ...newSiftRule("age", []), within_hours: 48 } as CampaignDocument["sift"]["rules"][number],
          ...document.sift.rules,
        ],
      },
      match: { ...document.match, on_match: "join", prefer: ["longest"] },
    }),
  },
  {
    key: "plain",
    title: "Nothing set",
    text: "All defaults, to begin from the ground.",
    change: (document) => ({ ...document, sift: { rules: [] } }),
  },
];

export function documentOf(start: string, sources: string[], mode: Mode): CampaignDocument {
  const plain = startingDocument(sources, mode);
  return STARTS.find(({ key }) => key === start)?.change(plain) ?? plain;
}
