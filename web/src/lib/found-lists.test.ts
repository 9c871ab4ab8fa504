import { describe, expect, it } from "vitest";
import { foundLists, foundTables } from "./found-lists";

const LISTS = [
  { version: 1, key: "a", name: "Not for us", words: ["horoscope", "renewals"] },
  { version: 1, key: "b", name: "Comets", words: ["Halley", "horo*"] },
];
const TABLES = [{ version: 1, key: "t", name: "Own words", lines: 2, text: "dome,Dome\nscope,telescope\n" }];

describe("a search in what is kept for the blog", () => {
  it("gives the lists with the terms that it finds, whatever the case", () => {
    expect(foundLists(LISTS, "HORO").map(({ list, terms }) => [list.key, terms])).toEqual([
      ["a", ["horoscope"]],
      ["b", ["horo*"]],
    ]);
  });

  it("gives all terms of a list that it finds by name, and nothing where it finds nothing", () => {
    expect(foundLists(LISTS, "comets")).toEqual([{ list: LISTS[1], terms: ["Halley", "horo*"] }]);
    expect(foundLists(LISTS, "nebula")).toEqual([]);
    expect(foundLists(LISTS, " ").length).toBe(2);
  });

  it("gives the lines of a table", () => {
    expect(foundTables(TABLES, "tele")).toEqual([{ table: TABLES[0], lines: ["scope,telescope"] }]);
    expect(foundTables(TABLES, "own")[0]?.lines).toEqual(["dome,Dome", "scope,telescope"]);
    expect(foundTables(TABLES, "nebula")).toEqual([]);
  });
});
