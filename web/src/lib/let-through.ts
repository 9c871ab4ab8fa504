import type { Schemas } from "@/api/client";
import { plural } from "./format";
import { STATE_WORDS } from "./wording";

type LetThrough = Schemas["LetThroughOut"];

const WHY: Record<string, (number: number) => string> = {
  has_post: (number) => (number === 1 ? "one has a post already" : `${number} have posts already`),
  refused: (number) =>
    number === 1
      ? "the post of one was refused by a person: publish it under Posts"
      : `the posts of ${number} were refused by people: publish them under Posts`,
  withdrawn: (number) => (number === 1 ? "one is withdrawn" : `${number} are withdrawn`),
  other_source: (number) =>
    number === 1
      ? "the source of one is not part of this campaign"
      : `the sources of ${number} are not part of this campaign`,
  failed: (number) =>
    number === 1
      ? "Shape failed on one: its trace says why"
      : `Shape failed on ${number}: their traces say why`,
  waits: (number) =>
    number === 1
      ? "one waits for its text: ask for it first"
      : `${number} wait for their texts: ask for them first`,
  empty: (number) =>
    number === 1 ? "nothing is left of one after Shape" : `nothing is left of ${number} after Shape`,
};

/** What became of the items that a person let through. */
export function letThroughWords({ posts, states, left }: LetThrough): string {
  const made = Object.entries(states).map(
    ([state, number]) => `${number} ${STATE_WORDS[state as never] ?? state}`,
  );
  const others = Object.entries(left).map(([why, titles]) => WHY[why]?.(titles.length) ?? why);
  const told = posts.length
    ? `Let through: ${plural(posts.length, "post")} (${made.join(", ").toLowerCase()})`
    : "No post was made";
  return `${[told, ...others].join("; ")}.`;
}
