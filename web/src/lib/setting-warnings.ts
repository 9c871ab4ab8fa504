import type { WordListRow } from "@/api/blogs";
import type { CampaignDocument } from "@/api/campaigns";
import type { Stage } from "@/api/proofs";
import { nameOf } from "./rules";

type Warn = (document: CampaignDocument, lists: readonly WordListRow[]) => string[];

/** A year before which no feed was published. */
const FIRST_YEAR = 1990;

function twice(values: readonly string[]): string[] {
  const seen = values.map((value) => value.trim().toLowerCase()).filter(Boolean);
  return [...new Set(seen.filter((value, index) => seen.indexOf(value) !== index))];
}

const gather: Warn = ({ gather }) =>
  gather.sources.length || gather.labels.length ? [] : ["No source is chosen, so no item comes in."];

const sift: Warn = ({ sift }, lists) => {
  const empty = new Set(lists.filter(({ words }) => words.length === 0).map(({ key }) => key));
  return sift.rules.flatMap((rule) =>
    rule.kind === "terms" && rule.on
      ? rule.lists
          .filter((key) => empty.has(key))
          .map((key) => `Rule ${nameOf(rule)} uses the word list ${key}, which has no words.`)
      : [],
  );
};

const match: Warn = ({ match }) =>
  match.rules.some(({ on }) => on)
    ? []
    : ["No comparison is on, so the same story can become several posts."];

const place: Warn = ({ place, release }) => {
  const found: string[] = [];
  for (const rule of place.category_rules)
    if (rule.kind === "table")
      for (const word of twice(rule.rows.map(({ word }) => word)))
        found.push(`Rule ${nameOf(rule)} has “${word}” twice; only the last line counts.`);
  if (place.visibility === "phrase" && ["", "change me"].includes(place.pass_phrase.trim()))
    found.push("Choose a pass phrase of your own: everybody can guess this one.");
  for (const date of [place.dates.first, place.dates.last])
    if (date && new Date(date).getFullYear() < FIRST_YEAR)
      found.push(`The year ${new Date(date).getFullYear()} is probably a mistake.`);
  if (["a_day", "between"].includes(place.date) && release.mode !== "scheduled")
    found.push("Dates in the future become the time of the run, unless Release publishes by date.");
  return found;
};

const release: Warn = ({ release }) => {
  const waits = release.mode === "hold" || release.mode === "draft";
  if (release.pace && waits)
    return [
      release.pace.when_full === "schedule"
        ? "The pace has no effect: no post goes out by itself in this mode."
        : "The pace limits how many posts are made, although none goes out by itself in this mode.",
    ];
  return [];
};

const WARNINGS: Record<Stage, Warn> = { gather, sift, match, shape: () => [], place, release };

/** Settings of a stage that are allowed but contradict each other, in words. */
export function settingWarnings(
  stage: Stage,
  document: CampaignDocument,
  lists: readonly WordListRow[],
): string[] {
  return WARNINGS[stage](document, lists);
}
