import type { CategoryRule, TagRule } from "@/api/campaigns";
import { newId } from "@/lib/rules";

/** The kinds of rules that give categories, as the menu names them. */
export const CATEGORY_KINDS: readonly { kind: CategoryRule["kind"]; label: string; hint: string }[] = [
  { kind: "table", label: "By the source’s categories", hint: "through a table: their word, our category" },
  { kind: "terms", label: "By words", hint: "where a term is in the title or text" },
  { kind: "keyword", label: "By the keyword", hint: "that found the item" },
  { kind: "fixed", label: "Always", hint: "the same for every post" },
];

export const TAG_KINDS: readonly { kind: TagRule["kind"]; label: string; hint: string }[] = [
  { kind: "source", label: "From the source’s categories", hint: "as written" },
  { kind: "hashtags", label: "From hashtags", hint: "in title and text" },
  { kind: "matched", label: "From terms found", hint: "by the rules of Sift" },
  { kind: "title", label: "From the title", hint: "its key phrases" },
];

export function newCategoryRule(kind: CategoryRule["kind"], rules: readonly CategoryRule[]): CategoryRule {
  const common = { id: newId(kind, rules), title: "", on: true } as const;
  switch (kind) {
    case "fixed":
      return { ...common, kind, names: ["News"] };
    case "table":
      return { ...common, kind, rows: [], unmapped: "fall_back", separator: "", depth: 3 };
    case "terms":
      return { ...common, kind, name: "News", terms: ["news"], lists: [] };
    case "keyword":
      return { ...common, kind, rows: [], unmapped: "create" };
  }
}

export function newTagRule(kind: TagRule["kind"], rules: readonly TagRule[]): TagRule {
  const common = { id: newId(kind, rules), title: "", on: true } as const;
  return kind === "title" ? { ...common, kind, at_most: 3, least_letters: 4 } : { ...common, kind };
}
