import type { PostSort } from "@/api/posts";

export interface Column {
  key: string;
  head: string;
  /** The sort of the first and the second press on its head. */
  sorts?: readonly [PostSort, PostSort];
  width: string;
}

/** The columns of the list of posts; the title is always there. */
export const COLUMNS: readonly Column[] = [
  { key: "picture", head: "Picture", width: "w-[68px]" },
  { key: "title", head: "Title", sorts: ["title", "-title"], width: "" },
  { key: "state", head: "State", sorts: ["state", "-state"], width: "w-[112px]" },
  { key: "campaign", head: "Campaign", sorts: ["campaign", "-campaign"], width: "w-[150px]" },
  { key: "source", head: "Source", sorts: ["source", "-source"], width: "w-[140px]" },
  { key: "category", head: "Category", sorts: ["category", "-category"], width: "w-[118px]" },
  { key: "date", head: "Date", sorts: ["newest", "oldest"], width: "w-[112px]" },
  { key: "words", head: "Words", sorts: ["-words", "words"], width: "w-[64px]" },
  { key: "reads", head: "Reads", width: "w-[64px]" },
  { key: "comments", head: "Comments", sorts: ["-comments", "comments"], width: "w-[86px]" },
];

const USUAL = ["picture", "title", "state", "campaign", "category", "date", "words"];
const KEPT = "columns of posts";

/** Returns the columns chosen in this browser. */
export function chosenColumns(): ReadonlySet<string> {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? "null");
    return new Set(Array.isArray(kept) ? [...kept.map(String), "title"] : USUAL);
  } catch {
    return new Set(USUAL);
  }
}

export function keepColumns(columns: ReadonlySet<string>): void {
  try {
    localStorage.setItem(KEPT, JSON.stringify([...columns]));
  } catch {
    // A browser without storage shows the default columns next time.
  }
}
