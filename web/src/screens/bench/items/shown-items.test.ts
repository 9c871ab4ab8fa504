import { describe, expect, it } from "vitest";
import type { ProofRow } from "@/api/proofs";
import { type ItemView, listOf, nextSort, shownItems } from "./shown-items";

function row(id: number, more: Partial<ProofRow>): ProofRow {
  const plain = { dated: "2026-11-24T12:00:00Z", words: 10, reason: null, categories: [], was: null };
  return { ...plain, id, title: `Story ${id}`, source: "Club", verdict: "publish", left_at: null, ...more };
}

const rows = [
  row(1, {}),
  row(2, { verdict: "refused", left_at: "sift" }),
  row(3, { verdict: "hold", was: { verdict: "publish", left_at: null, moved: false, reworded: false } }),
];
const ALL: ItemView = { filter: "all", stage: "sift", search: "", source: "", sort: null };

function shown(view: Partial<ItemView>, of = rows): number[] {
  return shownItems(of, { ...ALL, ...view }).map((one) => one.id);
}

describe("items on the bench", () => {
  it("shows what is kept, and what left at the open stage", () => {
    expect(shown({ filter: "kept", stage: "sift" })).toEqual([1, 3]);
    expect(shown({ filter: "left", stage: "sift" })).toEqual([2]);
  });

  it("counts what is held or drafted as staying at Release", () => {
    expect(shown({ filter: "left", stage: "release" })).toEqual([3]);
  });

  it("opens a stage with what left there, or with what is kept, and leaves an edit's changes in sight", () => {
    expect(listOf(rows, "sift", "all")).toBe("left");
    expect(listOf(rows, "place", "left")).toBe("kept");
    expect(listOf(rows, "sift", "changed")).toBe("changed");
  });

  it("shows what the edit changes", () => {
    expect(shown({ filter: "changed", stage: "sift" })).toEqual([3]);
  });

  it("searches title and source without regard to case", () => {
    expect(shown({ filter: "all", stage: "sift", search: "STORY 2" })).toEqual([2]);
    expect(shown({ filter: "all", stage: "sift", search: "nothing" })).toEqual([]);
  });

  it("shows the items of one source", () => {
    const two = [row(1, {}), row(2, { source: "Wire" })];
    expect(shown({ source: "Wire" }, two)).toEqual([2]);
  });

  it("sorts by each column, and leaves the proof as it is", () => {
    const mixed = [
      row(1, { title: "Éclair", words: 30, dated: "2026-11-22T12:00:00Z", categories: ["Sky"] }),
      row(2, { title: "apple 10", words: 7, dated: "2026-11-24T12:00:00Z" }),
      row(3, { title: "apple 9", words: 200, dated: "2026-11-23T12:00:00Z", categories: ["Club"] }),
    ];
    expect(shown({ sort: { by: "title", down: false } }, mixed)).toEqual([3, 2, 1]);
    expect(shown({ sort: { by: "words", down: true } }, mixed)).toEqual([3, 1, 2]);
    expect(shown({ sort: { by: "date", down: true } }, mixed)).toEqual([2, 3, 1]);
    expect(shown({ sort: { by: "category", down: false } }, mixed)).toEqual([3, 1, 2]);
    expect(shown({ sort: { by: "category", down: true } }, mixed)).toEqual([1, 3, 2]);
    expect(mixed.map(({ id }) => id)).toEqual([1, 2, 3]);
  });

  it("sorts words from the most, titles from A, then turns round, then stops", () => {
    expect(nextSort(null, "words")).toEqual({ by: "words", down: true });
    expect(nextSort({ by: "words", down: true }, "words")).toEqual({ by: "words", down: false });
    expect(nextSort({ by: "words", down: false }, "words")).toBeNull();
    expect(nextSort({ by: "words", down: true }, "title")).toEqual({ by: "title", down: false });
  });
});
