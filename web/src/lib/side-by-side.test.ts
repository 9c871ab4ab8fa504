import { describe, expect, it } from "vitest";
import { htmlSides, inLines, readText, sideBySide } from "./side-by-side";

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

describe("two versions of HTML", () => {
  it("are compared as readers see them", () => {
    const before = '<p>The <b>comet</b> is up.</p><img src="a.jpg" alt="A comet"><p>Read on.</p>';
    expect(readText(before)).toBe("The comet is up.\n[picture: A comet]\nRead on.");
    const sides = htmlSides(before, "<p>The <i>comet</i> is up.</p><p>Read on.</p>");
    expect(sides.before.map(({ text }) => text).join("")).not.toContain("<");
    expect(sides.before.filter(({ differs }) => differs).map(({ text }) => text)).toEqual([
      "[picture: A comet]\n",
    ]);
  });

  it("are compared as HTML where a reader sees no difference", () => {
    const sides = htmlSides("<p>The <b>comet</b></p>", "<p>The <i>comet</i></p>");
    expect(sides.after.some(({ text, differs }) => differs && text.includes("i"))).toBe(true);
    expect(sides.after.map(({ text }) => text).join("")).toBe("<p>The <i>comet</i></p>");
  });
});
