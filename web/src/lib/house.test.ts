import { describe, expect, it } from "vitest";
import type { CampaignDocument } from "@/api/campaigns";
import { differingAt, houseDifferences } from "./house";

const HOUSE = {
  gather: { sources: [], body: "full" },
  place: { byline: "Desk", tags: [] },
  release: { mode: "hold" },
} as unknown as CampaignDocument;

describe("house defaults", () => {
  it("leaves sources out of the comparison", () => {
    const mine = { ...HOUSE, gather: { ...HOUSE.gather, sources: ["club"] } };
    expect(houseDifferences(HOUSE, mine)).toEqual([]);
  });

  it("counts what differs stage by stage", () => {
    const mine = { ...HOUSE, place: { ...HOUSE.place, byline: "Mira", tags: ["a"] } };
    expect(differingAt("place", HOUSE, mine)).toBe(2);
    expect(differingAt("release", HOUSE, mine)).toBe(0);
  });
});
