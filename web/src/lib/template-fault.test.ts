import { describe, expect, it } from "vitest";
import { offsetOf } from "./template-fault";

describe("the place of a fault in a template", () => {
  it("is counted over lines", () => {
    expect(offsetOf("line 2, column 3: unknown filter", "one\n  x | y")).toBe(6);
  });

  it("never lies outside the template", () => {
    expect(offsetOf("line 9, column 80: x", "a\nbc")).toBe(4);
  });

  it("is nowhere where the fault names none", () => {
    expect(offsetOf("a template may have 20000 characters", "x")).toBeNull();
  });
});
