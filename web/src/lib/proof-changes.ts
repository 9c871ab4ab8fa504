import type { ProofRow } from "@/api/proofs";
import { plural } from "./format";
import { VERDICT_WORDS } from "./wording";

/** The effect of an edit on an item: `moved` is another category, tag, byline or date, `reworded` another text. */
export type ChangeKind = "kept" | "refused" | "waiting" | "released" | "moved" | "reworded" | "otherwise";

export function changesOf(row: ProofRow): ChangeKind[] {
  if (!row.was) return [];
  const kept = row.left_at === null;
  const wasKept = row.was.left_at === null;
  if (kept && !wasKept) return ["kept"];
  if (!kept && wasKept) return [row.verdict === "waiting" ? "waiting" : "refused"];
  const found: ChangeKind[] = [];
  if (kept && row.verdict !== row.was.verdict) found.push("released");
  if (row.was.moved) found.push("moved");
  if (row.was.reworded) found.push("reworded");
  return found.length ? found : ["otherwise"];
}

/** The effect of an edit on an item in words, for its row; empty for none. */
export function changeWords(row: ProofRow): string {
  const [first, second] = changesOf(row);
  if (!row.was || !first) return "";
  if (first === "kept") return `now kept, was ${VERDICT_WORDS[row.was.verdict]}`;
  if (first === "refused" || first === "waiting") return `now ${VERDICT_WORDS[row.verdict]}, was kept`;
  if (row.left_at !== null) return "leaves for another reason";
  if (row.was.verdict !== row.verdict)
    return `now ${VERDICT_WORDS[row.verdict]}, was ${VERDICT_WORDS[row.was.verdict]}`;
  return second ? `${ROW_WORDS.moved}, ${ROW_WORDS.reworded}` : (ROW_WORDS[first] ?? "");
}

/** The effect of an edit on a post that stays one, for its row. */
const ROW_WORDS: Partial<Record<ChangeKind, string>> = {
  moved: "other place or date",
  reworded: "other text",
  otherwise: "other reason",
};

const SAID: Record<ChangeKind, string> = {
  kept: "now kept",
  refused: "now refused",
  waiting: "now waiting",
  released: "released differently",
  moved: "with another place or date",
  reworded: "with another text",
  otherwise: "with another reason",
};

/** The effect of an edit on a whole proof. An item can be moved and reworded. */
export function changeSummary(rows: readonly ProofRow[]): string {
  const changed = rows.filter((row) => row.was);
  if (!changed.length) return "No item of the proof changes.";
  const counts = new Map<ChangeKind, number>();
  for (const kind of changed.flatMap(changesOf)) counts.set(kind, (counts.get(kind) ?? 0) + 1);
  const parts = (Object.keys(SAID) as ChangeKind[]).flatMap((kind) => {
    const times = counts.get(kind);
    return times ? [`${times} ${SAID[kind]}`] : [];
  });
  return `${plural(changed.length, "item changes", "items change")}: ${parts.join(", ")}`;
}
