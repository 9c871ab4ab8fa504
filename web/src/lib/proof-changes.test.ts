import { describe, expect, it } from "vitest";
import type { ProofRow } from "@/api/proofs";
import { changeSummary, changesOf, changeWords } from "./proof-changes";

function row(more: Partial<ProofRow>): ProofRow {
  return {
    id: 1,
    title: "Story",
    source: "Club",
    dated: "2026-11-24T12:00:00Z",
    words: 10,
    reason: null,
    categories: [],
    verdict: "publish",
    left_at: null,
    was: null,
    ...more,
  };
}
const was = (more: Partial<NonNullable<ProofRow["was"]>> = {}) => ({
  verdict: "publish" as const,
  left_at: null,
  moved: false,
  reworded: false,
  ...more,
});

describe("what an edit changes", () => {
  it("tells coming in from dropping out", () => {
    expect(changeWords(row({ was: was({ verdict: "refused", left_at: "sift" }) }))).toBe(
      "now kept, was refused",
    );
    expect(changeWords(row({ verdict: "refused", left_at: "sift", was: was() }))).toBe(
      "now refused, was kept",
    );
  });

  it("tells moved from reworded, and both", () => {
    expect(changesOf(row({ was: was({ moved: true }) }))).toEqual(["moved"]);
    expect(changeWords(row({ was: was({ moved: true, reworded: true }) }))).toBe(
      "other place or date, other text",
    );
  });

  it("names another release", () => {
    const held = row({ verdict: "hold", was: was({ reworded: true }) });
    expect(changeWords(held)).toBe("now held for review, was published");
    expect(changeSummary([held])).toBe("1 item changes: 1 released differently, 1 with another text");
  });

  it("says that an item leaves as before, for another reason", () => {
    const leaves = row({
      verdict: "refused",
      left_at: "sift",
      was: was({ verdict: "duplicate", left_at: "match" }),
    });
    expect(changeWords(leaves)).toBe("leaves for another reason");
    expect(changeSummary([leaves])).toBe("1 item changes: 1 with another reason");
  });

  it("does not call refused what only waits", () => {
    const waits = row({ verdict: "waiting", left_at: "release", was: was() });
    expect(changeSummary([waits])).toBe("1 item changes: 1 now waiting");
    expect(changeWords(waits)).toBe("now waits for a later run, was kept");
  });

  it("sums up a proof", () => {
    const rows = [
      row({}),
      row({ was: was({ moved: true, reworded: true }) }),
      row({ was: was({ moved: true }) }),
    ];
    expect(changeSummary(rows)).toBe("2 items change: 2 with another place or date, 1 with another text");
    expect(changeSummary([row({})])).toBe("No item of the proof changes.");
  });
});
