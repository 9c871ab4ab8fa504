import type { ProofRow, Stage } from "@/api/proofs";

export const ITEM_FILTERS = ["all", "kept", "left", "changed"] as const;
export type ItemFilter = (typeof ITEM_FILTERS)[number];

export function isKept(row: ProofRow): boolean {
  return row.left_at === null;
}

/** Whether an item belongs in the list of those that went no further at a stage. */
export function leftAt(row: ProofRow, stage: Stage): boolean {
  const notOut = ["hold", "draft", "scheduled"].includes(row.verdict);
  return row.left_at === stage || (stage === "release" && notOut);
}

/** The list that says most about a stage: what left there, else what is kept. An edit's changes stay in sight. */
export function listOf(rows: readonly ProofRow[], stage: Stage, before: ItemFilter): ItemFilter {
  if (before === "changed") return before;
  return rows.some((row) => leftAt(row, stage)) ? "left" : "kept";
}

export function shownItems(
  rows: readonly ProofRow[],
  filter: ItemFilter,
  stage: Stage,
  search: string,
): ProofRow[] {
  const wanted = search.trim().toLowerCase();
  return rows.filter((row) => {
    if (filter === "kept" && !isKept(row)) return false;
    if (filter === "left" && !leftAt(row, stage)) return false;
    if (filter === "changed" && !row.was) return false;
    return !wanted || `${row.title} ${row.source}`.toLowerCase().includes(wanted);
  });
}
