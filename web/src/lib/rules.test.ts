import { describe, expect, it } from "vitest";
import { moved, newSiftRule, withEntry } from "./rules";

describe("rules", () => {
  it("gives a new rule an id that no other has", () => {
    const first = newSiftRule("number", []);
    expect(newSiftRule("number", [first]).id).toBe("number-2");
  });

  it("replaces an entry where it stands, or takes it out", () => {
    const entries = [
      { id: "a", n: 1 },
      { id: "b", n: 2 },
    ];
    expect(withEntry(entries, "a", { id: "a", n: 9 })).toEqual([
      { id: "a", n: 9 },
      { id: "b", n: 2 },
    ]);
    expect(withEntry(entries, "b", null)).toEqual([{ id: "a", n: 1 }]);
  });

  it("moves an entry up and down, and never off the list", () => {
    expect(moved(["a", "b", "c"], 0, 2)).toEqual(["b", "c", "a"]);
    expect(moved(["a", "b", "c"], 2, 0)).toEqual(["c", "a", "b"]);
    expect(moved(["a", "b"], 0, -1)).toEqual(["a", "b"]);
  });
});
