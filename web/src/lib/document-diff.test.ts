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
      "sift › rules › sky › id",
      "sift › rules › sky › terms",
      "sift › rules › sky › on",
      "place › category",
    ]);
  });

  it("finds nothing between equal documents", () => {
    expect(differences(before, structuredClone(before))).toEqual([]);
  });
});
