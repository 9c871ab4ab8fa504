import { describe, expect, it } from "vitest";
import { hasMoved, LONGEST_TITLE, moved, newSiftRule, withCopy, withEntry } from "./rules";

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

describe("a copied rule", () => {
  const rules = [
    { id: "terms", title: "" },
    { id: "terms-2", title: "No adverts" },
  ];

  it("gets an id that is free, without a chain of numbers", () => {
    expect(withCopy(rules, "terms-2").map(({ id }) => id)).toEqual(["terms", "terms-2", "terms-3"]);
  });

  it("says in its title that it is one, within the length of a title", () => {
    expect(withCopy(rules, "terms-2")[2]?.title).toBe("No adverts (copy)");
    const long = [{ id: "a", title: "x".repeat(LONGEST_TITLE) }];
    expect(withCopy(long, "a")[1]?.title).toHaveLength(LONGEST_TITLE);
  });
});

describe("a rule that has moved", () => {
  const saved = ["a", "b", "c"].map((id) => ({ id, title: "" }));

  it("is told from one that others were put in front of", () => {
    const [a, b, c] = saved as [Entry, Entry, Entry];
    const added = [{ id: "new", title: "" }, a, b, c];
    expect(added.map((_, index) => hasMoved(added, saved, index))).toEqual([false, false, false, false]);
    const swapped = [b, a, c];
    expect(swapped.map((_, index) => hasMoved(swapped, saved, index))).toEqual([true, true, false]);
    const without = [b, c];
    expect(without.map((_, index) => hasMoved(without, saved, index))).toEqual([false, false]);
  });
});

type Entry = { id: string; title: string };
