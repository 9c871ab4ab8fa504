import { describe, expect, it } from "vitest";
import { documentOf, STARTS } from "./starts";

describe("starting points", () => {
  it("keeps the sources and the mode that were chosen", () => {
    for (const { key } of STARTS) {
      const made = documentOf(key, ["club"], "draft");
      expect(made.gather.sources).toEqual(["club"]);
      expect(made.release.mode).toBe("draft");
    }
  });

  it("gives every rule and step an id of its own", () => {
    for (const { key } of STARTS) {
      const made = documentOf(key, ["club"], "hold");
      for (const list of [made.sift.rules, made.match.rules, made.shape.steps]) {
        const ids = list.map(({ id }) => id);
        expect(new Set(ids).size).toBe(ids.length);
      }
    }
  });

  it("carries the full text only where it is meant to", () => {
    expect(documentOf("articles", [], "hold").shape.body).toBe("{{ body }}");
    expect(documentOf("headlines", [], "hold").shape.body).not.toContain("body");
  });
});
