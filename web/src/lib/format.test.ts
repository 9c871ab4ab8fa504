import { describe, expect, it } from "vitest";
import { ago, hours, milliseconds, plural, price } from "./format";

describe("format", () => {
  it("says one thing in the singular and many in the plural", () => {
    expect(plural(1, "item")).toBe("1 item");
    expect(plural(1200, "item")).toBe("1,200 items");
    expect(plural(2, "entry", "entries")).toBe("2 entries");
  });

  it("says an age in its largest fitting unit", () => {
    const now = Date.parse("2026-11-24T12:00:00Z");
    expect(ago("2026-11-24T11:59:40Z", now)).toBe("now");
    expect(ago("2026-11-24T11:56:00Z", now)).toBe("4 min");
    expect(ago("2026-11-23T00:00:00Z", now)).toBe("36 h");
    expect(ago("2026-11-12T12:00:00Z", now)).toBe("12 d");
  });

  it("never gives an age before now", () => {
    expect(ago("2026-11-24T13:00:00Z", Date.parse("2026-11-24T12:00:00Z"))).toBe("now");
  });

  it("words hours as days only when they are whole days", () => {
    expect(hours(24)).toBe("24 hours");
    expect(hours(72)).toBe("3 days");
    expect(hours(50)).toBe("50 hours");
  });

  it("keeps short times in milliseconds", () => {
    expect(milliseconds(85)).toBe("85 ms");
    expect(milliseconds(1240)).toBe("1.2 s");
  });

  it.each([
    ["289.0", "289"],
    ["18.5", "18.50"],
    ["0.125", "0.125"],
    ["on request", "on request"],
    ["", ""],
  ])("writes the price %s as %s", (text, written) => {
    expect(price(text)).toBe(written);
  });
});
