import type { TermTableRow, WordListRow } from "@/api/blogs";

function has(text: string, wanted: string): boolean {
  return text.toLowerCase().includes(wanted.trim().toLowerCase());
}

/** The word lists whose name or terms match a search, with the matching terms only. */
export function foundLists(lists: readonly WordListRow[], wanted: string) {
  return lists.flatMap((list) => {
    const terms = list.words.filter((word) => has(word, wanted));
    if (terms.length) return [{ list, terms }];
    return has(list.name, wanted) ? [{ list, terms: list.words }] : [];
  });
}

/** The tables whose name or lines match a search, with the matching lines only. */
export function foundTables(tables: readonly TermTableRow[], wanted: string) {
  return tables.flatMap((table) => {
    const all = table.text.trim().split("\n");
    const lines = all.filter((line) => has(line, wanted));
    if (lines.length) return [{ table, lines }];
    return has(table.name, wanted) ? [{ table, lines: all }] : [];
  });
}
