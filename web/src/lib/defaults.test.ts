import { describe, expect, it } from "vitest";
import type { CampaignDocument } from "@/api/campaigns";
import { defaultsDifferences, differingAt } from "./defaults";

const BLOG_DEFAULTS = {
  gather: { sources: [], body: "full" },
  place: { byline: "Desk", tags: [] },
  release: { mode: "hold" },
} as unknown as CampaignDocument;

describe("defaults of the blog", () => {
  it("leaves sources out of the comparison", () => {
    const mine = { ...BLOG_DEFAULTS, gather: { ...BLOG_DEFAULTS.gather, sources: ["club"] } };
    expect(defaultsDifferences(BLOG_DEFAULTS, mine)).toEqual([]);
  });

  it("counts what differs stage by stage", () => {
    const mine = { ...BLOG_DEFAULTS, place: { ...BLOG_DEFAULTS.place, byline: "Mira", tags: ["a"] } };
    expect(differingAt("place", BLOG_DEFAULTS, mine)).toBe(2);
    expect(differingAt("release", BLOG_DEFAULTS, mine)).toBe(0);
  });
});
