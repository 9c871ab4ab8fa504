import { describe, expect, it } from "vitest";
import { may, roleName } from "./roles";
import { slugFrom } from "./slug";

describe("roles", () => {
  it("may do what those before them may", () => {
    expect(may("editor", "reviewer")).toBe(true);
    expect(may("editor", "editor")).toBe(true);
    expect(may("reviewer", "editor")).toBe(false);
    expect(may(undefined, "viewer")).toBe(false);
    expect(roleName("owner")).toBe("Owner");
  });
});

describe("addresses from names", () => {
  it("have small letters, digits and single hyphens", () => {
    expect(slugFrom("  Café — Étoile 2! ")).toBe("cafe-etoile-2");
    expect(slugFrom("天気")).toBe("");
  });
});
