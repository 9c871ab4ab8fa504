import { describe, expect, it } from "vitest";
import type { CampaignDocument } from "@/api/campaigns";
import { documentOf as madeOf, STARTS } from "./starts";

const DEFAULTS = {
  format: 1,
  gather: { sources: [], body: "full" },
  sift: { rules: [] },
  match: { rules: [], prefer: ["earliest"], on_match: "refuse" },
  shape: {
    steps: [],
    excerpt: { unit: "sentences", count: 3, taken_from: "text", ellipsis: "…" },
    body: "{{ body }}",
  },
  place: { byline: "Night desk" },
  release: { mode: "hold", hold_when: [] },
} as unknown as CampaignDocument;
const documentOf = (start: string, sources: string[], mode: CampaignDocument["release"]["mode"]) =>
  madeOf(DEFAULTS, start, { sources, labels: [] }, mode);

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

  it("leaves what the blog has set elsewhere", () => {
    for (const { key } of STARTS) expect(documentOf(key, [], "hold").place.byline).toBe("Night desk");
  });

  it("carries the full text only where it is meant to", () => {
    expect(documentOf("articles", [], "hold").shape.body).toBe("{{ body }}");
    expect(documentOf("headlines", [], "hold").shape.body).not.toContain("body");
  });
});
