import { describe, expect, it } from "vitest";
import type { ProofRow } from "@/api/proofs";
import { listOf, shownItems } from "./shown-items";

function row(id: number, more: Partial<ProofRow>): ProofRow {
  const plain = { dated: "2026-11-24T12:00:00Z", words: 10, reason: null, was: null } as const;
  return { ...plain, id, title: `Story ${id}`, source: "Club", verdict: "publish", left_at: null, ...more };
}

const rows = [
  row(1, {}),
  row(2, { verdict: "refused", left_at: "sift" }),
  row(3, { verdict: "hold", was: { verdict: "publish", left_at: null, moved: false, reworded: false } }),
];
const ids = (shown: ProofRow[]) => shown.map((one) => one.id);

describe("items on the bench", () => {
  it("shows what is kept, and what left at the open stage", () => {
    expect(ids(shownItems(rows, "kept", "sift", ""))).toEqual([1, 3]);
    expect(ids(shownItems(rows, "left", "sift", ""))).toEqual([2]);
  });

  it("counts what is held or drafted as staying at Release", () => {
    expect(ids(shownItems(rows, "left", "release", ""))).toEqual([3]);
  });

  it("opens a stage with what left there, or with what is kept, and leaves an edit's changes in sight", () => {
    expect(listOf(rows, "sift", "all")).toBe("left");
    expect(listOf(rows, "place", "left")).toBe("kept");
    expect(listOf(rows, "sift", "changed")).toBe("changed");
  });

  it("shows what the edit changes", () => {
    expect(ids(shownItems(rows, "changed", "sift", ""))).toEqual([3]);
  });

  it("searches title and source without regard to case", () => {
    expect(ids(shownItems(rows, "all", "sift", "STORY 2"))).toEqual([2]);
    expect(ids(shownItems(rows, "all", "sift", "nothing"))).toEqual([]);
  });
});
