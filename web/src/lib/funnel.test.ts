import { describe, expect, it } from "vitest";
import { band } from "./funnel";

describe("funnel band", () => {
  it("is as thick as the whole height where every item is", () => {
    expect(band([10, 10], 10, 0, 200, 60).top).toMatch(/^M 0 2 /);
  });

  it("draws no held part where nothing is held", () => {
    expect(band([10, 5], 5, 0, 200, 60).held).toBe("");
    expect(band([10, 5], 5, 2, 200, 60).held).not.toBe("");
  });

  it("can be drawn for a proof without items", () => {
    expect(band([0, 0], 0, 0, 200, 60).outline).not.toContain("NaN");
  });
});
