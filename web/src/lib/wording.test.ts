import { describe, expect, it } from "vitest";
import type { Note } from "@/api/proofs";
import { reasonName, wordsOf } from "./wording";

function note(code: string, data: Note["data"] = {}): Note {
  return { stage: "sift", code, rule: "r", against: true, data };
}

describe("wording", () => {
  it("names what was found and what was wanted", () => {
    expect(wordsOf(note("number.low", { field: "words", number: 64, at_least: 120 }))).toEqual({
      strong: "64 words",
      rest: "needs 120",
    });
  });

  it("names the post that an item repeats", () => {
    const words = wordsOf(note("match.link", { title: "Fireball season", within_pass: false }));
    expect(words).toEqual({ strong: "same link", rest: "a post: “Fireball season”" });
  });

  it("lists the terms that were found", () => {
    const found = note("terms.forbidden", { hits: [{ term: "horoscope" }, { term: "sponsored post" }] });
    expect(wordsOf(found).rest).toBe("horoscope, sponsored post");
  });

  it("puts the name before what is no count", () => {
    expect(wordsOf(note("number.high", { field: "price", number: 89, at_most: 50 })).strong).toBe("price 89");
    expect(wordsOf(note("number.unknown", { field: "custom", name: "mount" })).strong).toBe("no mount");
  });

  it("says of a group which of its rules held", () => {
    const parts = [
      { rule: "a", passed: true },
      { rule: "b", passed: false },
    ];
    expect(wordsOf(note("group.fails", { mode: "all", parts })).rest).toBe("all of: a holds, b does not");
  });

  it("shows the code of a note it has no words for", () => {
    expect(wordsOf(note("something.new")).strong).toBe("something.new");
    expect(reasonName("something.new")).toBe("something.new");
  });
});
