import type { HoldRule } from "@/api/campaigns";
import { newId } from "@/lib/rules";

/** The conditions that hold a finished post, as the menu names them. */
export const HOLD_KINDS: readonly { kind: HoldRule["kind"]; label: string; hint: string }[] = [
  { kind: "no_picture", label: "No lead image", hint: "none was found, or all were too small" },
  { kind: "few_words", label: "Short", hint: "the finished post is shorter than so many words" },
  { kind: "no_category", label: "No category of its own", hint: "only the usual one, or none" },
  { kind: "words", label: "Leftover words", hint: "a term is still in the finished post" },
  {
    kind: "unread_field",
    label: "A field without its value",
    hint: "its value does not fit the type of the field",
  },
];

export function newHoldRule(kind: HoldRule["kind"], rules: readonly HoldRule[]): HoldRule {
  const common = { id: newId(kind.replace("_", "-"), rules), title: "", on: true } as const;
  switch (kind) {
    case "few_words":
      return { ...common, kind, fewer_than: 40 };
    case "words":
      return { ...common, kind, terms: ["sponsored"] };
    default:
      return { ...common, kind };
  }
}
