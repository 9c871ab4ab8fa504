import type { CampaignDocument } from "@/api/campaigns";
import { newSiftRule } from "./rules";

type Step = CampaignDocument["shape"]["steps"][number];
type Mode = CampaignDocument["release"]["mode"];
type SiftRules = CampaignDocument["sift"]["rules"];

export interface Start {
  key: string;
  title: string;
  text: string;
  /** Applies the start to a document of defaults. */
  change: (document: CampaignDocument) => CampaignDocument;
}

const LEFTOVERS: Step = {
  id: "leftovers",
  kind: "drop_paragraphs",
  title: "",
  on: true,
  terms: ["originally posted", "first appeared"],
  lists: [],
};
const TIDY: Step = {
  id: "tidy",
  kind: "tidy",
  title: "",
  on: true,
  empty: true,
  styles: true,
  pixels: true,
  spaces: true,
  quotes: false,
};

const LONG_ENOUGH = { ...newSiftRule("number", []), id: "words", at_least: 30 } as SiftRules[number];
const EXCERPT_ONLY = "<p>{{ excerpt }}</p>";

/** Prepends rules and requires a length. */
function sifting(document: CampaignDocument, ...rules: SiftRules): CampaignDocument["sift"] {
  const added = [...rules, LONG_ENOUGH];
  const others = document.sift.rules.filter((rule) => !added.some(({ id }) => id === rule.id));
  return { rules: [...added, ...others] };
}

/** Starting points, named by what they are for. */
export const STARTS: readonly Start[] = [
  {
    key: "headlines",
    title: "Headlines with a link back",
    text: "A short excerpt, the picture and a link to the original.",
    change: (document) => ({
      ...document,
      sift: sifting(document),
      shape: {
        ...document.shape,
        excerpt: { ...document.shape.excerpt, taken_from: "summary", unit: "words", count: 40 },
        body: EXCERPT_ONLY,
      },
    }),
  },
  {
    key: "articles",
    title: "Full articles of a trusted source",
    text: "The whole text, cleaned up, without lines such as “originally posted on …”.",
    change: (document) => ({
      ...document,
      sift: sifting(document),
      shape: { ...document.shape, steps: [LEFTOVERS, TIDY], body: "{{ body }}" },
    }),
  },
  {
    key: "topic",
    title: "One topic from a busy source",
    text: "Only items with the words that you choose on the bench.",
    change: (document) => ({
      ...document,
      sift: sifting(document, {
        ...newSiftRule("terms", []),
        id: "topic",
        mode: "any",
        terms: ["change these words"],
      } as SiftRules[number]),
      shape: { ...document.shape, body: EXCERPT_ONLY },
    }),
  },
  {
    key: "pictures",
    title: "Pictures first",
    text: "Only items with a picture: a large picture and a short text.",
    change: (document) => ({
      ...document,
      sift: { rules: [newSiftRule("presence", [])] },
      shape: {
        ...document.shape,
        excerpt: { ...document.shape.excerpt, unit: "sentences", count: 1 },
        body: EXCERPT_ONLY,
      },
    }),
  },
  {
    key: "news",
    title: "Fresh news, never twice",
    text: "Nothing older than two days. A story from several sources becomes one post that names them all.",
    change: (document) => ({
      ...document,
      sift: sifting(document, { ...newSiftRule("age", []), within_hours: 48 } as SiftRules[number]),
      match: { ...document.match, on_match: "join", prefer: ["longest"] },
      shape: { ...document.shape, body: EXCERPT_ONLY },
    }),
  },
  {
    key: "goods",
    title: "Goods of a shop",
    text: "The price with its button, never older than a day, then the text, ratings and what it cost before.",
    change: (document) => ({
      ...document,
      shape: {
        ...document.shape,
        body: "{% offer price %}\n{{ body }}\n{% offer facts %}\n{% offer rating %}\n{% offer history %}",
      },
      place: { ...document.place, kind: "product" },
    }),
  },
  {
    key: "defaults",
    title: "Only the defaults of the blog",
    text: "The rules that every new campaign of this blog begins with, unchanged.",
    change: (document) => document,
  },
];

/** The rules of a new campaign: the defaults of the blog, changed by a start. */
export function documentOf(
  defaults: CampaignDocument,
  start: string,
  chosen: { sources: string[]; labels: string[] },
  mode: Mode,
): CampaignDocument {
  const begun = {
    ...defaults,
    gather: { ...defaults.gather, ...chosen },
    release: { ...defaults.release, mode },
  };
  return STARTS.find(({ key }) => key === start)?.change(begun) ?? begun;
}
