import { describe, expect, it } from "vitest";
import { actionWords, changesOf } from "./audit";

describe("changes of the audit list", () => {
  it("name the fields that differ", () => {
    expect(changesOf({ a: 1, right_words: 50, c: null }, { a: 1, right_words: 80, c: "x" })).toEqual([
      { what: "right words", before: "50", after: "80" },
      { what: "c", before: "nothing", after: "x" },
    ]);
  });

  it("give plain values as they are", () => {
    expect(changesOf("Sky", "Night sky")).toEqual([{ what: "", before: "Sky", after: "Night sky" }]);
    expect(changesOf(null, { role: "viewer" })).toEqual([
      { what: "", before: "", after: '{"role":"viewer"}' },
    ]);
    expect(changesOf(null, null)).toEqual([]);
  });

  it("are worded, also where an action is not known here", () => {
    expect(actionWords("campaign.renamed")).toBe("renamed the campaign");
    expect(actionWords("thing.done_so")).toBe("thing done so");
  });
});
