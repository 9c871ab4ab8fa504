import { describe, expect, it } from "vitest";
import type { Note } from "@/api/proofs";
import { hits, reasonName, wordsOf } from ".";

function said(code: string, data: Record<string, unknown> = {}): string {
  const { strong, rest } = wordsOf({
    stage: "sift",
    rule: "r",
    code,
    against: false,
    data,
  } as unknown as Note);
  return [strong, rest].filter(Boolean).join(": ");
}

const HIT = {
  term: "comet*",
  in: "title",
  start: 0,
  end: 6,
  before: "",
  match: "Comets",
  after: "",
  times: 2,
};
const SEEN = { title: "A comet", within_pass: false };

describe("notes of a trace in words", () => {
  it.each<[string, Record<string, unknown>, string]>([
    ["gathered", { body: "full", words: 120, pictures: 1 }, "full text of 120 words, 1 picture"],
    ["gathered", { body: "summary", words: 20, pictures: 0 }, "summary of 20 words, 0 pictures"],
    [
      "gathered",
      { body: "full", words: 300, pictures: 0, page: "taken" },
      "full text of 300 words, 0 pictures; the text comes from its page",
    ],
    ["gather.too_far_back", { look_back_days: 30 }, "too far back: more than 30 days"],
    ["gather.too_early", { not_before: "2026-05-01" }, "too early: the campaign begins on 1 May 2026"],
    ["terms.found", { hits: [HIT, { ...HIT, term: "moon" }] }, "has: comet*, moon"],
    ["terms.missing", { missing: ["comet", "moon"] }, "term missing: comet, moon"],
    ["number.low", { field: "words", number: 20, at_least: 50 }, "20 words: needs 50"],
    ["number.high", { field: "price", number: 120, at_most: 99 }, "price 120: at most 99"],
    ["number.within", { field: "custom", name: "aperture", number: 150 }, "aperture 150"],
    ["number.unknown", { field: "rating" }, "no rating: the source does not state it"],
    ["values.one_of", { field: "author", values: ["Ida", "Tobin"] }, "author: is Ida, Tobin"],
    ["presence.lacking", { trait: "custom", name: "mount" }, "lacks mount"],
    [
      "group.fails",
      {
        mode: "all",
        parts: [
          { rule: "a", passed: true },
          { rule: "b", passed: false },
        ],
      },
      "group: all of: a holds, b does not",
    ],
    ["age.old", { hours: 47, within_hours: 24 }, "47 hours old: limit 24 hours"],
    ["age.within", { hours: 49 }, "2 days old"],
  ])("%s %o", (code, data, words) => {
    expect(said(code, data)).toBe(words);
  });

  it("names what was matched, and whether it came in the same pass", () => {
    expect(said("match.link", SEEN)).toBe("same link: a post: “A comet”");
    expect(said("match.title", { ...SEEN, within_pass: true })).toBe(
      "same title: another item of the same proof or run: “A comet”",
    );
    expect(said("match.near_text", { ...SEEN, likeness: 0.7 })).toBe("text 70 % the same: a post: “A comet”");
    expect(said("match.new", { against: "everything" })).toBe(
      "new: nothing like it in any blog of the owners",
    );
    const replaced = [
      ["3 May", "10 May"],
      ["Spica", "Antares"],
    ];
    expect(said("match.near_text", { ...SEEN, likeness: 0.7, doubtful: true, replaced })).toBe(
      "text 70 % the same, but it may be another story: a post: “A comet”; different: “3 May”, there “10 May”; “Spica”, there “Antares”",
    );
    const nearest = { ...SEEN, kind: "near_text", likeness: 0.31, limit: 0.65 };
    expect(said("match.new", { against: "blog", nearest })).toBe(
      "new: nearest is a post: “A comet”, text 31 % the same, the rule asks for 65 %",
    );
    expect(said("match.new", { against: "blog", nearest: { ...nearest, other_facts: true } })).toBe(
      "new: nearest is a post: “A comet”, text 31 % the same, but it tells other facts",
    );
    expect(said("match.new", { against: "blog", nearest: { ...nearest, unweighted: 0.7 } })).toContain(
      "31 % the same (70 % with passages that are common on this blog)",
    );
  });

  it("says what each step did", () => {
    expect(said("step.drop_paragraphs", { dropped: ["Posted on"] })).toBe("took out: “Posted on”");
    expect(said("step.select", { mode: "keep", elements: 1 })).toBe("kept only: 1 element");
    expect(said("step.cut", { side: "after", blocks: 2, at: "read more" })).toBe(
      "cut after: 2 paragraphs at “read more”",
    );
    expect(said("step.links", { removed: 1, changed: 2 })).toBe("links: 1 removed, 2 changed");
    expect(said("step.shorten", { before: "A long title", after: "A long…" })).toBe(
      "shortened: “A long title” became “A long…”",
    );
    expect(said("step.shorten", { kept: 50, words: 80 })).toBe("shortened: 50 of 80 words");
    expect(said("step.summarise", { kept: 50, words: 80 })).toBe("summarised: 50 of 80 words");
    expect(
      said("step.reword", { replaced: ["big → large"], times: 14, same: 81, unread: ["“a/b” has 2 forms"] }),
    ).toBe(
      "reworded: big → large and 2 more; 81 % of the three-word runs are still the same; lines without effect: “a/b” has 2 forms",
    );
    expect(said("step.shorten", { of: "excerpt", before: "A long text", after: "A long…" })).toBe(
      "shortened: the excerpt: “A long text” became “A long…”",
    );
    expect(said("step.nothing", { of: "fields.kind" })).toBe("the field kind: nothing to change");
    expect(said("step.spared", {})).toBe("left as it is: its source allows a link only");
    expect(said("step.tidy", { pixels: 1, spaces: 3 })).toBe("tidied: pixels 1, spaces 3");
    expect(said("step.nothing")).toBe("nothing to change");
  });

  it("says where a picture is from, and that others were too small", () => {
    expect(said("lead", { from: "page", too_small: 2 })).toBe(
      "lead image: from the linked page; 2 pictures too small",
    );
    expect(said("lead.none", { too_small: 0 })).toBe("no picture found");
  });

  it("says line and column of a template that failed, where they are known", () => {
    expect(said("shape.template_failed", { message: "too much", line: 2, column: 5 })).toBe(
      "template error: line 2, column 5: too much",
    );
    expect(said("shape.template_failed", { message: "too much", line: null, column: null })).toBe(
      "template error: too much",
    );
  });

  it("says for what a name was given, unless it is the word itself", () => {
    const given = [
      { name: "Meteors", because: "fireball*" },
      { name: "Comets", because: "comets" },
    ];
    expect(said("category.given", { given })).toBe("category: Meteors (for fireball*), Comets");
  });

  it("says where a post stands", () => {
    const data = {
      category: "News",
      fell_back: true,
      tags: ["a", "b"],
      byline: "Ada",
      date_from: "between",
      visibility: "phrase",
    };
    expect(said("placed", data)).toBe(
      "News: the usual one: no rule found another · tags a, b · byline Ada · spread between two moments · with a pass phrase",
    );
    expect(said("placed", { ...data, date: "2026-11-24T12:00:00Z" })).toMatch(
      /dated 24 Nov,? .*\(spread between two moments\)/,
    );
    expect(said("placed", { category: "", tags: [], date_from: "original", in_future: true })).toBe(
      "no category: its own date is in the future",
    );
  });

  it("says what fields hold and what they cannot", () => {
    const data = { filled: [{ name: "seen", value: "12" }], unread: [{ name: "price", text: "cheap" }] };
    expect(said("fields.unread", data)).toBe(
      "a field could not be read: price cannot hold “cheap” · seen: 12",
    );
    expect(said("fields", { filled: [], unread: [] })).toBe("fields: none has a value");
  });

  it("says what the rights of a source came to", () => {
    expect(said("rights.kept", { right: "full" })).toBe("the source allows full text");
    expect(said("rights.cut", { right: "excerpt", limit: 50, words: 300 })).toBe(
      "cut to what the source allows: an excerpt of 50 words, it had 300",
    );
  });

  it("says why a post is held or waits", () => {
    expect(said("held.by_rule", { rules: ["no-picture", "short"] })).toBe(
      "held for review: a rule asks for it: no-picture, short",
    );
    expect(said("release.full", { limit: 3, per: "hour" })).toBe(
      "waits: 3 an hour are reached; a later run takes it",
    );
    expect(said("hold.no_category", { category: "News" })).toBe(
      "no category of its own: only the usual one, News",
    );
    expect(said("hold.few_words", { words: 20, fewer_than: 50 })).toBe("20 words: fewer than 50");
  });

  it("falls back on the code for what it does not know", () => {
    expect(said("new.code")).toBe("new.code");
    expect(reasonName("new.code")).toBe("new.code");
    expect(reasonName("match.near_text")).toBe("similar text");
  });

  it("gives the hits of a note, or none", () => {
    expect(hits({ data: { hits: [HIT] } } as unknown as Note)).toEqual([HIT]);
    expect(hits({ data: {} } as unknown as Note)).toEqual([]);
  });
});
