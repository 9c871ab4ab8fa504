import type { Outcome } from "@/api/replay";
import type { LozengeKind } from "@/ui/Lozenge";

interface OutcomeWords {
  outcome: Outcome;
  head: string;
  text: string;
  kind: LozengeKind;
}

/** The outcomes of a replay, in the order shown. */
export const OUTCOMES: readonly OutcomeWords[] = [
  { outcome: "changed", head: "Changed", text: "would read otherwise", kind: "hold" },
  { outcome: "refused", head: "Refused", text: "would be no post", kind: "refused" },
  { outcome: "duplicate", head: "Duplicates", text: "would be there already", kind: "duplicate" },
  { outcome: "new", head: "New", text: "would be a post now", kind: "publish" },
  { outcome: "same", head: "Same", text: "stay as they are", kind: "draft" },
];
