import { describe, expect, it } from "vitest";
import { letThroughWords } from "./let-through";

describe("what became of items that were let through", () => {
  it("counts the posts by their states", () => {
    const told = letThroughWords({
      posts: [1, 2, 3],
      states: { published: 2, held: 1 },
      left: {},
      change: 7,
    });
    expect(told).toBe("Let through: 3 posts (2 published, 1 held).");
  });

  it("says why there is no post of the others", () => {
    const left = { has_post: ["A"], empty: ["B", "C"], refused: ["D"], other_source: ["E"], failed: ["F"] };
    expect(letThroughWords({ posts: [], states: {}, left, change: null })).toBe(
      "No post was made; one has a post already; nothing is left of 2 after Shape; " +
        "the post of one was refused by a person: publish it under Posts; " +
        "the source of one is not part of this campaign; Shape failed on one: its trace says why.",
    );
  });
});
