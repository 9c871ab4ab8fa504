import type { ShapeStep } from "@/api/campaigns";

export type StepKind = ShapeStep["kind"];

/** The kinds of steps, as the menu names them. */
export const STEP_KINDS: readonly { kind: StepKind; label: string; hint: string }[] = [
  { kind: "drop_paragraphs", label: "Remove paragraphs", hint: "that hold a word or phrase" },
  { kind: "cut", label: "Cut", hint: "everything before or after a phrase" },
  { kind: "select", label: "Elements", hint: "remove, or keep only, by CSS or XPath" },
  { kind: "links", label: "Links", hint: "remove, mark, add partner tags" },
  { kind: "pictures", label: "Pictures", hint: "remove, fit, describe" },
  { kind: "replace", label: "Replace words", hint: "or make links of them" },
  { kind: "table", label: "Table of terms", hint: "replace or link, by a table of the blog" },
  { kind: "reword", label: "Reword", hint: "by the blog’s own synonyms" },
  { kind: "shorten", label: "Shorten", hint: "title or body" },
  { kind: "summarise", label: "Summarise", hint: "keep the most telling sentences" },
  { kind: "translate", label: "Translate", hint: "by a language service, checked" },
  { kind: "rewrite", label: "Rewrite by a service", hint: "in other words, or fewer, checked" },
  { kind: "standing", label: "Standing text", hint: "before or after, with variables" },
  { kind: "tidy", label: "Tidy up", hint: "empty paragraphs, pixels, quotes" },
];

export function newStep(kind: StepKind, id: string, table = "table", service = "service"): ShapeStep {
  const common = { id, title: "", on: true } as const;
  switch (kind) {
    case "drop_paragraphs":
      return { ...common, kind, terms: ["originally posted"], lists: [] };
    case "cut":
      return { ...common, kind, side: "after", phrase: "read more", with_it: true };
    case "select":
      return { ...common, kind, mode: "remove", selector: "aside" };
    case "links":
      return {
        ...common,
        kind,
        gone: "none",
        kept_hosts: [],
        rel: ["nofollow"],
        new_tab: false,
        parameters: [],
        replaced_by: "",
      };
    case "pictures":
      return {
        ...common,
        kind,
        remove_all: false,
        smallest_width: 0,
        smallest_height: 0,
        box_width: 800,
        box_height: 0,
        describe: true,
      };
    case "replace":
      return {
        ...common,
        kind,
        of: "body",
        find: "words",
        what: "click here",
        by: "",
        where: "body",
        link: "",
        first: null,
      };
    case "table":
      return { ...common, kind, of: "body", tables: [table], where: "body", first: 1 };
    case "reword":
      return { ...common, kind, of: "body", tables: [table], percent: 20, where: "body", headings: false };
    case "summarise":
      return { ...common, kind, of: "body", words: 120 };
    case "translate":
      return { ...common, kind, of: "body", services: [service], glossary: [], where: "both", to: "de" };
    case "rewrite":
      return {
        ...common,
        kind,
        of: "body",
        services: [service],
        glossary: [],
        where: "both",
        task: "reword",
        words: 120,
      };
    case "shorten":
      return { ...common, kind, of: "body", part: "body", unit: "paragraphs", count: 5, ellipsis: "…" };
    case "standing":
      return { ...common, kind, of: "body", side: "after", variants: ["First seen at {{ source.title }}."] };
    case "tidy":
      return { ...common, kind, empty: true, styles: true, pixels: true, spaces: true, quotes: false };
  }
}
