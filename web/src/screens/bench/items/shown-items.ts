import type { ProofRow, Stage } from "@/api/proofs";

export const ITEM_FILTERS = ["all", "kept", "left", "changed"] as const;
export type ItemFilter = (typeof ITEM_FILTERS)[number];

export function isKept(row: ProofRow): boolean {
  return row.left_at === null;
}

/** Whether an item belongs in the list of items that left at a stage. */
export function leftAt(row: ProofRow, stage: Stage): boolean {
  const notOut = ["hold", "draft", "scheduled"].includes(row.verdict);
  return row.left_at === stage || (stage === "release" && notOut);
}

/** The most informative list of a stage: what left there, else what is kept. Changed items stay visible. */
export function listOf(rows: readonly ProofRow[], stage: Stage, before: ItemFilter): ItemFilter {
  if (before === "changed") return before;
  return rows.some((row) => leftAt(row, stage)) ? "left" : "kept";
}

export const ITEM_COLUMNS = ["title", "category", "date", "words"] as const;
export type ItemColumn = (typeof ITEM_COLUMNS)[number];

/** The sort column of a list. Without one the order is that of the proof: newest first. */
export interface ItemSort {
  by: ItemColumn;
  down: boolean;
}

const ALPHABET = new Intl.Collator(undefined, { numeric: true, sensitivity: "base" });

const COMPARED: Record<ItemColumn, (one: ProofRow, other: ProofRow) => number> = {
  title: (one, other) => ALPHABET.compare(one.title, other.title),
  category: (one, other) => ALPHABET.compare(one.categories.join(), other.categories.join()),
  date: (one, other) => Date.parse(one.dated) - Date.parse(other.dated),
  words: (one, other) => one.words - other.words,
};

/** The sort after a click on a column: dates and words descending first, then ascending, then none. */
export function nextSort(sort: ItemSort | null, by: ItemColumn): ItemSort | null {
  const first = by === "date" || by === "words";
  if (sort?.by !== by) return { by, down: first };
  return sort.down === first ? { by, down: !first } : null;
}

export interface ItemView {
  filter: ItemFilter;
  stage: Stage;
  search: string;
  /** The name of the only source to show; empty for all. */
  source: string;
  sort: ItemSort | null;
}

/** The rows of a proof that match the filter, sorted. */
export function shownItems(rows: readonly ProofRow[], view: ItemView): ProofRow[] {
  const wanted = view.search.trim().toLowerCase();
  const shown = rows.filter((row) => {
    if (view.filter === "kept" && !isKept(row)) return false;
    if (view.filter === "left" && !leftAt(row, view.stage)) return false;
    if (view.filter === "changed" && !row.was) return false;
    if (view.source && row.source !== view.source) return false;
    return !wanted || `${row.title} ${row.source}`.toLowerCase().includes(wanted);
  });
  const { sort } = view;
  if (!sort) return shown;
  // Items without a category come last in both directions.
  const empty = (row: ProofRow) => Number(sort.by === "category" && !row.categories.length);
  const turn = sort.down ? -1 : 1;
  return shown.sort((one, other) => empty(one) - empty(other) || turn * COMPARED[sort.by](one, other));
}
