import { describe, expect, it } from "vitest";
import { differences } from "./document-diff";

const before = { sift: { rules: [{ id: "sky", terms: ["comet"], on: true }] }, place: { category: "" } };

describe("differences of documents", () => {
  it("names the rule and what has changed in it", () => {
    const after = { ...before, sift: { rules: [{ id: "sky", terms: ["comet", "meteor"], on: true }] } };
    expect(differences(before, after)).toEqual([
      { path: "sift › rules › sky › terms", before: "comet", after: "comet, meteor" },
    ]);
  });

  it("shows what was added and what was taken out", () => {
    const after = { sift: { rules: [] }, place: { category: "Sky" } };
    expect(differences(before, after).map(({ path }) => path)).toEqual([
      "place › category",
      "sift › rules › sky",
    ]);
  });

  it("finds nothing between equal documents", () => {
    expect(differences(before, structuredClone(before))).toEqual([]);
  });

  it("tells an entry that is new or gone in one line", () => {
    const rule = { id: "short", kind: "number", on: true, at_least: 60, at_most: null, name: "" };
    expect(differences({ rules: [] }, { rules: [rule] })).toEqual([
      { path: "rules › short", before: "", after: "number · at least 60" },
    ]);
    expect(differences({ rules: [rule] }, { rules: [] })[0]?.before).toBe("number · at least 60");
  });

  it("tells entries that stand in another place, and no others", () => {
    const list = (...ids: string[]) => ({ shape: { steps: ids.map((id) => ({ id, kind: "tidy" })) } });
    expect(differences(list("a", "b", "c", "d"), list("b", "c", "d", "a"))).toEqual([
      { path: "shape › steps › a", before: "place 1", after: "place 4" },
    ]);
    expect(differences(list("a", "b"), list("b", "a")).length).toBe(1);
    expect(differences(list("a", "b"), list("a", "new", "b")).map(({ path }) => path)).toEqual([
      "shape › steps › new",
    ]);
    expect(differences(list("a", "b"), list("a", "b"))).toEqual([]);
  });
});
