import { describe, expect, it } from "vitest";
import { merge } from "./merge";

const BASE = {
  release: { mode: "hold", at_most: null as number | null },
  sift: {
    rules: [
      { id: "a", on: true, terms: ["comet"] },
      { id: "b", on: true, terms: ["moon"] },
    ],
  },
};
const changed = (change: (document: typeof BASE) => void) => {
  const made = structuredClone(BASE);
  change(made);
  return made;
};

describe("edits of two people", () => {
  it("stand both where they are about different things", () => {
    const mine = changed((one) => one.sift.rules[0]?.terms.push("meteor"));
    const theirs = changed((one) => {
      one.release.mode = "publish";
      one.sift.rules[1] = { id: "b", on: false, terms: ["moon"] };
    });
    const { document, clashes } = merge(BASE, mine, theirs);
    expect(clashes).toEqual([]);
    expect(document.release.mode).toBe("publish");
    expect(document.sift.rules).toEqual([
      { id: "a", on: true, terms: ["comet", "meteor"] },
      { id: "b", on: false, terms: ["moon"] },
    ]);
  });

  it("clash where both changed the same thing: mine stands, and it is said", () => {
    const mine = changed((one) => {
      one.release.at_most = 3;
    });
    const theirs = changed((one) => {
      one.release.at_most = 9;
    });
    const { document, clashes } = merge(BASE, mine, theirs);
    expect(document.release.at_most).toBe(3);
    expect(clashes).toEqual(["release › at_most"]);
  });

  it("add up in lists of words and of rules", () => {
    const mine = changed((one) => {
      one.sift.rules[0]?.terms.push("mine");
      one.sift.rules.push({ id: "c", on: true, terms: ["new"] });
    });
    const theirs = changed((one) => {
      one.sift.rules[0] = { id: "a", on: true, terms: ["theirs"] };
      one.sift.rules.push({ id: "d", on: true, terms: ["newer"] });
    });
    const { document, clashes } = merge(BASE, mine, theirs);
    expect(clashes).toEqual([]);
    expect(document.sift.rules.map(({ id }) => id)).toEqual(["a", "b", "d", "c"]);
    expect(document.sift.rules[0]?.terms).toEqual(["theirs", "mine"]);
  });

  it("take out words that either has removed", () => {
    const both = changed((one) => one.sift.rules[0]?.terms.push("moon", "sun"));
    const without = (word: string) => {
      const made = structuredClone(both);
      const rule = made.sift.rules[0];
      if (rule) rule.terms = rule.terms.filter((term) => term !== word);
      return made;
    };
    const { document } = merge(both, without("moon"), without("sun"));
    expect(document.sift.rules[0]?.terms).toEqual(["comet"]);
  });

  it("keep two rules that got the same id by chance", () => {
    const mine = changed((one) => one.sift.rules.push({ id: "c", on: true, terms: ["mine"] }));
    const theirs = changed((one) => one.sift.rules.push({ id: "c", on: false, terms: ["theirs"] }));
    const { document, clashes } = merge(BASE, mine, theirs);
    expect(clashes).toEqual([]);
    expect(document.sift.rules.slice(2)).toEqual([
      { id: "c", on: false, terms: ["theirs"] },
      { id: "c-2", on: true, terms: ["mine"] },
    ]);
  });

  it("take out what one has removed, unless the other has changed it", () => {
    const without = changed((one) => one.sift.rules.pop());
    const moved = changed((one) => one.sift.rules.reverse());
    expect(merge(BASE, without, BASE).document.sift.rules.map(({ id }) => id)).toEqual(["a"]);
    expect(merge(BASE, moved, without).document.sift.rules.map(({ id }) => id)).toEqual(["a"]);
    const edited = changed((one) => one.sift.rules[1]?.terms.push("sun"));
    const { document, clashes } = merge(BASE, without, edited);
    expect(document.sift.rules.map(({ id }) => id)).toEqual(["a", "b"]);
    expect(clashes).toEqual(["sift › rules › b"]);
  });

  it("keep my order where I have moved a rule", () => {
    const moved = changed((one) => one.sift.rules.reverse());
    const theirs = changed((one) => one.sift.rules.push({ id: "c", on: true, terms: ["x"] }));
    expect(merge(BASE, moved, theirs).document.sift.rules.map(({ id }) => id)).toEqual(["b", "a", "c"]);
  });
});
