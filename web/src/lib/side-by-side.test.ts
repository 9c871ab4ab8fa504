import { describe, expect, it } from "vitest";
import { inLines, sideBySide } from "./side-by-side";

describe("two texts side by side", () => {
  it("mark the words that the other has not", () => {
    const { before, after } = sideBySide("The comet is up. Read more.", "The star is up.");
    expect(before.filter(({ differs }) => differs).map(({ text }) => text)).toEqual(["comet", " Read more."]);
    expect(after.filter(({ differs }) => differs).map(({ text }) => text)).toEqual(["star"]);
    expect(before.map(({ text }) => text).join("")).toBe("The comet is up. Read more.");
    expect(after.map(({ text }) => text).join("")).toBe("The star is up.");
  });

  it("stand without marks where to find the differences would take too long", () => {
    const one = Array.from({ length: 30_000 }, (_, place) => `a${(place * 7919) % 30_011}`).join(" ");
    const other = Array.from({ length: 30_000 }, (_, place) => `a${(place * 104_729) % 30_011}`).join(" ");
    const { before, after } = sideBySide(one, other);
    expect([before.length, after.length]).toEqual([1, 1]);
    expect(before[0]?.text).toBe(one);
  });
});

describe("HTML to be read", () => {
  it("has each block on a line of its own", () => {
    expect(inLines("<p>One</p><p>Two<br/>three</p>")).toBe("<p>One</p>\n<p>Two<br/>\nthree</p>");
    expect(inLines("<p>One</p>\n<p>Two</p>")).toBe("<p>One</p>\n<p>Two</p>");
  });
});
