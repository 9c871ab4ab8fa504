import { describe, expect, it } from "vitest";
import type { CampaignDocument } from "@/api/campaigns";
import type { Stage } from "@/api/proofs";
import { DEFAULTS } from "@/testing/bench";
import { newSiftRule } from "./rules";
import { settingWarnings } from "./setting-warnings";

const LISTS = [{ version: 1, key: "none", name: "None", words: [] }];

function warned<S extends Stage>(stage: S, changes: object, others: Partial<CampaignDocument> = {}): string {
  const part = { ...(DEFAULTS[stage] as object), ...changes };
  return settingWarnings(stage, { ...DEFAULTS, ...others, [stage]: part }, LISTS).join(" ");
}

describe("settings that make no sense together", () => {
  it("are told stage by stage", () => {
    expect(warned("gather", { sources: [] })).toContain("No source is chosen");
    expect(warned("sift", { rules: [{ ...newSiftRule("terms", []), lists: ["none"] }] })).toContain(
      "no words",
    );
    expect(warned("match", { rules: [] })).toContain("several posts");
    expect(
      warned("release", { mode: "hold", pace: { posts: 3, per: "hour", when_full: "schedule" } }),
    ).toContain("no effect");
    expect(warned("place", { visibility: "phrase", pass_phrase: "change me" })).toContain("of your own");
    expect(warned("place", { dates: { ...DEFAULTS.place.dates, first: "0001-01-02T00:00:00Z" } })).toContain(
      "probably a mistake",
    );
    const rows = [
      { word: "Sky", name: "A" },
      { word: " sky", name: "B" },
    ];
    expect(warned("place", { category_rules: [{ id: "t", kind: "table", on: true, rows }] })).toContain(
      "“sky” twice",
    );
  });

  it("are not found where there are none", () => {
    expect(warned("gather", { sources: ["club"] })).toBe("");
    expect(warned("release", { mode: "publish", pace: { posts: 3, per: "hour", when_full: "wait" } })).toBe(
      "",
    );
    expect(warned("place", { visibility: "phrase", pass_phrase: "nine herons" })).toBe("");
    expect(warned("shape", {})).toBe("");
    const rows = [
      { word: "sky", name: "News" },
      { word: "moon", name: "News" },
    ];
    expect(warned("place", { category_rules: [{ id: "t", kind: "table", on: true, rows }] })).toBe("");
  });
});
