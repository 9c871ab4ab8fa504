import type { NameKind } from "@/api/names";

/** What each kind of names is called. */
export const KINDS: Record<NameKind, { title: string; one: string; many: string; empty: string }> = {
  category: {
    title: "Categories",
    one: "category",
    many: "categories",
    empty: "Rules make categories as they need them, at the stage Place. You can make some here before.",
  },
  tag: {
    title: "Tags",
    one: "tag",
    many: "tags",
    empty: "Rules make tags as they need them, at the stage Place.",
  },
  byline: {
    title: "Bylines",
    one: "byline",
    many: "bylines",
    empty: "Rules make bylines as they need them, at the stage Place.",
  },
};
