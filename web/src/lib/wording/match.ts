import type { Note } from "@/api/proofs";
import { type Data, number, text, type Wordings } from "./data";

function percent(data: Data, key: string): string {
  return `${Math.round(number(data, key) * 100)} %`;
}

function matched(data: Data): string {
  if (data.hidden) return "a post of a blog that you do not work on";
  const where = data.within_pass ? "another item of the same proof or run" : "a post";
  return `${where}: “${text(data, "title")}”`;
}

function alike(data: Data): string {
  return `${percent(data, "likeness")} the same`;
}

const SHOWN = 3;

/** What stands in place of what, where two texts share most of their words. */
function replaced(data: Data): string {
  const places = (data.replaced ?? []) as [string, string][];
  if (!places.length) return "";
  const told = places.slice(0, SHOWN).map(([mine, theirs]) => `“${mine}”, there “${theirs}”`);
  return `; different: ${told.join("; ")}${places.length > SHOWN ? "; and more" : ""}`;
}

const PLACES: Record<string, string> = {
  campaign: "this campaign",
  blog: "this blog",
  everything: "any blog of the owners",
};

function isNew(data: Data): string {
  const place = PLACES[text(data, "against")] ?? "";
  const nearest = data.nearest as Data | undefined;
  if (!nearest) return `nothing like it in ${place}`;
  const what = nearest.kind === "near_title" ? "title" : "text";
  const why = nearest.other_facts
    ? "but it tells other facts"
    : `the rule asks for ${percent(nearest, "limit")}`;
  const common = nearest.unweighted
    ? ` (${percent(nearest, "unweighted")} with passages that are common on this blog)`
    : "";
  return `nearest is ${matched(nearest)}, ${what} ${alike(nearest)}${common}, ${why}${replaced(nearest)}`;
}

/** The number of the post that an item was compared with, where it is one of the same blog. */
export function comparedPost({ stage, data }: Note): number | null {
  if (stage !== "match" || data.against === "everything") return null;
  const ref = text((data.nearest as Data | undefined) ?? data, "ref");
  return ref.startsWith("post:") ? Number(ref.slice("post:".length)) : null;
}

/** Match. */
export const MATCH: Wordings = {
  "match.new": ({ data }) => ({ strong: "new", rest: isNew(data) }),
  "match.identity": ({ data }) => ({ strong: "same identity", rest: matched(data) }),
  "match.link": ({ data }) => ({ strong: "same link", rest: matched(data) }),
  "match.title": ({ data }) => ({ strong: "same title", rest: matched(data) }),
  "match.product": ({ data }) => ({ strong: "same product", rest: matched(data) }),
  "match.media": ({ data }) => ({ strong: "same film or sound", rest: matched(data) }),
  "match.keyword": ({ data }) => ({ strong: "same keyword", rest: matched(data) }),
  "match.near_title": ({ data }) => ({ strong: `title ${alike(data)}`, rest: matched(data) }),
  "match.near_text": ({ data }) => ({
    strong: `text ${alike(data)}${data.doubtful ? ", but it may be another story" : ""}`,
    rest: `${matched(data)}${replaced(data)}`,
  }),
};
