import { describe, expect, it } from "vitest";
import type { Push } from "@/api/sources";
import { pushWords } from "./push";

const PUSH: Push = {
  hub: "https://hub.example/",
  state: "verified",
  lease_ends_at: null,
  pushed_at: null,
  bad_pushes: 0,
  failure: "",
  address_is_set: true,
};

describe("how a source is pushed", () => {
  it("is not mentioned where the feed names no hub", () => {
    expect(pushWords({ ...PUSH, hub: "", state: null })).toBe("");
  });

  it("is told for each state", () => {
    expect(pushWords(PUSH)).toBe("A hub pushes what is new. Nothing was pushed yet.");
    expect(pushWords({ ...PUSH, bad_pushes: 2 })).toContain("2 pushes had a wrong signature");
    expect(pushWords({ ...PUSH, state: "refused", failure: "Not today." })).toContain(
      "does not push: Not today.",
    );
    expect(pushWords({ ...PUSH, state: "asked" })).toContain("has not agreed yet");
    expect(pushWords({ ...PUSH, address_is_set: false })).toContain("GLYPTARCH_PUBLIC_ADDRESS");
  });
});
