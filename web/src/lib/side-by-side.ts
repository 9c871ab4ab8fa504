import { diffWordsWithSpace } from "diff";

/** A piece of a text; `differs` where the other side lacks it. */
export interface Piece {
  text: string;
  differs: boolean;
}

export interface Sides {
  before: Piece[];
  after: Piece[];
}

/** Milliseconds after which two long texts are shown without marks. */
const MOST_TIME = 400;

/** Two texts side by side, with the words of only one marked. */
export function sideBySide(before: string, after: string): Sides {
  const parts = diffWordsWithSpace(before, after, { timeout: MOST_TIME });
  if (!parts) return { before: [{ text: before, differs: false }], after: [{ text: after, differs: false }] };
  return {
    before: parts
      .filter(({ added }) => !added)
      .map(({ value, removed }) => ({ text: value, differs: removed })),
    after: parts
      .filter(({ removed }) => !removed)
      .map(({ value, added }) => ({ text: value, differs: added })),
  };
}

const BLOCK_ENDS =
  /(<\/(?:p|div|h[1-6]|ul|ol|li|blockquote|figure|figcaption|table|tr|pre)>|<(?:br|hr)[^>]*>)(?!\n)/g;

/** HTML with each block on a line of its own, to be read. */
export function inLines(html: string): string {
  return html.replace(BLOCK_ENDS, "$1\n").trim();
}

/** What a reader sees of HTML: a block a line, and pictures by their texts. */
export function readText(html: string): string {
  const page = new DOMParser().parseFromString(inLines(html), "text/html");
  for (const picture of page.querySelectorAll("img")) {
    picture.replaceWith(`[picture: ${picture.alt || picture.getAttribute("src") || ""}]\n`);
  }
  return (page.body.textContent ?? "")
    .split("\n")
    .map((line) => line.replace(/\s+/g, " ").trim())
    .filter(Boolean)
    .join("\n");
}

/** Two versions of HTML as readers see them, or as HTML where only that differs. */
export function htmlSides(before: string, after: string): Sides {
  const [first, second] = [readText(before), readText(after)];
  return first === second ? sideBySide(inLines(before), inLines(after)) : sideBySide(first, second);
}
