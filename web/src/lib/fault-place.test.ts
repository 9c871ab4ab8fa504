import { describe, expect, it } from "vitest";
import type { CampaignDocument } from "@/api/campaigns";
import { faultPlace } from "./fault-place";

const RULES = {
  sift: {
    rules: [
      { id: "comets", kind: "terms" },
      { id: "length", title: "Short texts" },
    ],
  },
  shape: { steps: [{ id: "cut" }], body: "" },
} as unknown as CampaignDocument;

describe("the place of a fault", () => {
  it("is the rule or step that the path counts to", () => {
    expect(faultPlace(RULES, "sift.rules.1.at_least")).toEqual({
      stage: "sift",
      id: "length",
      words: "Sift, rule Short texts",
    });
    expect(faultPlace(RULES, "document.shape.steps.0.phrase")?.words).toBe("Shape, step cut");
  });

  it("is the stage where no rule is meant, and nowhere outside of the rules", () => {
    expect(faultPlace(RULES, "shape.body")).toEqual({ stage: "shape", id: null, words: "Shape" });
    expect(faultPlace(RULES, "sift.rules.9.terms")).toEqual({ stage: "sift", id: null, words: "Sift" });
    expect(faultPlace(RULES, "over.days")).toBeNull();
  });
});
