import { describe, expect, it } from "vitest";
import { warningWords } from "./warnings";

describe("warnings of a feed", () => {
  it("says a kind once, with its number of entries", () => {
    const warnings = [1, 2].map((entry) => ({ code: "no_date", entry, detail: "" }));
    expect(warningWords(warnings)).toEqual(["2 entries: no date"]);
  });

  it("gives the detail of what is wrong with the feed itself", () => {
    expect(warningWords([{ code: "ill_formed", entry: 0, detail: "no end tag" }])).toEqual([
      "the feed: not well-formed (no end tag)",
    ]);
  });
});
