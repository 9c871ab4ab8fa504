import type { Edition } from "@/api/editions";
import { moment, plural } from "./format";

const STATES = [
  ["made", "made"],
  ["waits", "waiting for texts"],
  ["wanted", "to be made"],
  ["failed", "that could not be made"],
] as const;

/** The numbers of editions in words: "12 editions made, 2 waiting for texts". */
export function editionCounts(editions: Partial<Record<string, number>>): string {
  const said = STATES.filter(([state]) => editions[state]).map(
    ([state, words], place) =>
      `${place ? editions[state] : plural(editions[state] ?? 0, "edition")} ${words}`,
  );
  return said.length ? said.join(", ") : "no editions yet";
}

const PARTS: Record<string, string> = {
  title: "title",
  excerpt: "excerpt",
  description: "description",
  lead_alt: "words of the lead picture",
  field: "field",
  body: "text",
};

/** The part of a post that a block stands in. */
export function partName(part: string): string {
  return PARTS[part] ?? part;
}

/** How an edition stands, in words. */
export function editionState({ state, may, behind, blocks, made_at, edited }: Edition): string {
  if (state === null)
    return may ? "not made" : "no edition: the source allows a link only, or no service is chosen";
  if (state === "failed") return "could not be made";
  if (state !== "made") return "";
  const said = [
    made_at ? `made ${moment(made_at)}` : "made",
    behind ? `${behind} of ${plural(blocks, "block")} behind the original` : "up to date",
    edited ? "edited by hand" : "",
  ];
  return said.filter(Boolean).join(" · ");
}
