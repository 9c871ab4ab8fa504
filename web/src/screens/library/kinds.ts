import type { NameKind } from "@/api/names";

/** What each kind of names is called. */
export const KINDS: Record<NameKind, { one: string; many: string; empty: string }> = {
  category: {
    one: "category",
    many: "categories",
    empty: "Rules make categories as they need them, at the stage Place. You can make some here before.",
  },
  tag: { one: "tag", many: "tags", empty: "Rules make tags as they need them, at the stage Place." },
  byline: {
    one: "byline",
    many: "bylines",
    empty: "Rules make bylines as they need them, at the stage Place.",
  },
};
