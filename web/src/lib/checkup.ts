import type { Finding } from "@/api/campaigns";
import { desk } from "./blog-path";
import { moment, plural, since } from "./format";
import { reasonName, STAGE_NAMES, type STAGES } from "./wording";

/** A finding of a checkup in words, with the remedy and its place. */
export interface FindingWords {
  found: string;
  remedy: string;
  /** Where the remedy is, and what the link is called. */
  link: { to: string; name: string } | null;
  /** The items that it is about. */
  further: { to: string; name: string } | null;
}

type Data = Finding["data"];
type Place = { blog: string; slug: string };

interface NamedSource {
  key: string;
  title: string;
  detail?: string;
}

interface Reason {
  stage: string;
  code: string;
  rule: string;
  count: number;
}

const number = (data: Data, key: string) => Number(data[key] ?? 0);
const text = (data: Data, key: string) => String(data[key] ?? "");
const sources = (data: Data) => (data.sources ?? data.quiet ?? []) as NamedSource[];

export const STEP_NAMES: Record<Finding["step"], string> = {
  schedule: "Schedule",
  sources: "Sources",
  items: "Items",
  run: "Last run",
  rules: "Rules",
  posts: "Posts",
};

function reasonWords(data: Data): string {
  const reasons = (data.reasons ?? []) as Reason[];
  return reasons
    .map(({ stage, code, rule, count }) => {
      const where = STAGE_NAMES[stage as (typeof STAGES)[number]] ?? stage;
      return `${where}: ${reasonName(code)}${rule ? ` by rule “${rule}”` : ""} ${count}`;
    })
    .join("; ");
}

const bench = ({ blog, slug }: Place, stage: string, name = "Open the rules") => ({
  to: `${desk.bench(blog, slug)}?stage=${stage}`,
  name,
});

function sourceLink({ blog }: Place, data: Data) {
  const [first] = sources(data);
  return first ? { to: desk.source(blog, first.key), name: `Open ${first.title}` } : null;
}

const posts = ({ blog, slug }: Place, state: string) => ({
  to: `${desk.posts(blog)}?campaign=${slug}${state ? `&state=${state}` : ""}`,
  name: "Open the posts",
});

const decisions = ({ blog, slug }: Place, outcome: string) => ({
  to: desk.decisions(blog, { campaign: slug, outcome }),
  name: "See these items",
});

type Wording = (
  data: Data,
  place: Place,
) => { found: string; remedy?: string; link?: FindingWords["link"]; further?: FindingWords["link"] };

const WORDS: Record<string, Wording> = {
  "schedule.hand": () => ({
    found: "It runs by hand only.",
    remedy: "Press “Run now”, or set a schedule.",
  }),
  "schedule.paused": () => ({ found: "It is paused.", remedy: "Open its schedule and take off the pause." }),
  "schedule.ended": () => ({
    found: "Its last day is over, or its schedule names no day that comes.",
    remedy: "Open its schedule and set another last day.",
  }),
  "schedule.next": (data) => ({ found: `It runs next on ${moment(text(data, "at"))}.` }),
  "sources.none": (_, place) => ({
    found: "No source is chosen.",
    remedy: "Tick a source at Gather.",
    link: bench(place, "gather"),
  }),
  "sources.all_fail": (data, place) => ({
    found: `No source can be read. ${sources(data)[0]?.title ?? ""}: ${sources(data)[0]?.detail ?? ""}`,
    remedy: "Open the source and read it again. Where its feed has moved, add the new address as a source.",
    link: sourceLink(place, data),
  }),
  "sources.some_fail": (data, place) => ({
    found: `${number(data, "bad")} of ${plural(number(data, "of"), "source")} cannot be read: ${sources(data)
      .map(({ title }) => title)
      .join(", ")}.`,
    link: sourceLink(place, data),
  }),
  "sources.unread": (data) => ({
    found: `${number(data, "unread")} of ${plural(number(data, "of"), "source")} has not been read yet.`,
    remedy: "The next run reads it.",
  }),
  "sources.read": (data) => ({ found: `${plural(number(data, "of"), "source")}, all read well.` }),
  "items.none": () => ({
    found: "The sources have given no item so far.",
    remedy: "Open a source and press “Read now”.",
  }),
  "items.quiet": (data, place) => ({
    found: `${sources(data)
      .map(({ title }) => title)
      .join(", ")} is unusually quiet. The newest item of all is ${since(text(data, "newest"))}.`,
    link: sourceLink(place, data),
  }),
  "items.there": (data) => ({
    found: `${plural(number(data, "items"), "captured item")}, the newest ${since(text(data, "newest"))}.`,
  }),
  "run.none": (data) => ({
    found: `It has never run. ${plural(number(data, "waiting"), "item waits", "items wait")} for it.`,
    remedy: "Press “Run now”, or set a schedule.",
  }),
  "run.failed": (data, { blog }) => ({
    found: `The last run failed. ${text(data, "failure")}`,
    link: { to: desk.run(blog, number(data, "run")), name: "Open the run" },
  }),
  "run.under_way": (data, { blog }) => ({
    found: "A run is under way now.",
    link: { to: desk.run(blog, number(data, "run")), name: "Watch it" },
  }),
  "run.done": (data, { blog }) => ({
    found: `It ran ${since(text(data, "at"))}.`,
    link: { to: desk.run(blog, number(data, "run")), name: "Open the run" },
  }),
  "rules.nothing_new": () => ({
    found: "The last five runs found nothing new: every captured item has been decided.",
    remedy:
      "Wait for new items, add a source, or let items be decided again (“Decide items again” on the bench).",
  }),
  "rules.refused": (data, place) => ({
    found: `The last five runs refused all ${plural(number(data, "total"), "new item")}. ${reasonWords(data)}.`,
    remedy:
      "Loosen the rule that refuses most; the bench shows at once what that lets in. Single items can be let through.",
    link: bench(place, "sift"),
    further: decisions(place, "refused"),
  }),
  "rules.duplicates": (data, place) => ({
    found: `Nearly all of ${plural(number(data, "total"), "new item")} of the last five runs were there already. ${reasonWords(data)}.`,
    remedy:
      "Look at Match: perhaps another campaign of the blog brings the same stories. Single items can be let through.",
    link: bench(place, "match"),
    further: decisions(place, "duplicate"),
  }),
  "rules.kept": (data) => ({
    found: `The last five runs kept ${number(data, "kept")} of ${plural(number(data, "total"), "new item")}; ${number(data, "refused")} refused, ${plural(number(data, "duplicate"), "duplicate")}.`,
  }),
  "rules.waiting": (data, place) => ({
    found: `${plural(number(data, "waiting"), "item waits", "items wait")} for a run: it is new since the last one, or the limits of a run keep it back.`,
    remedy: "Press “Run now”; or look at the limits at Gather and the pace at Release.",
    link: bench(place, "release"),
  }),
  "posts.published": (data) => ({
    found: `${number(data, "published")} of the ${plural(number(data, "total"), "post")} of the last five runs are on the blog.`,
  }),
  "posts.held": (data, place) => ({
    found: `${plural(number(data, "number"), "post")} of the last five runs wait for a person.`,
    remedy: "Publish them, or let Release publish by itself.",
    link: posts(place, "held"),
  }),
  "posts.draft": (data, place) => ({
    found: `${plural(number(data, "number"), "post")} of the last five runs are drafts.`,
    remedy: "Publish them, or choose another mode at Release.",
    link: posts(place, "draft"),
  }),
  "posts.scheduled": (data, place) => ({
    found: `${plural(number(data, "number"), "post")} of the last five runs wait for their date.`,
    remedy: "They go out by themselves. Dates and pace are set at Place and Release.",
    link: posts(place, "scheduled"),
  }),
  "posts.private": (data, place) => ({
    found: `${plural(number(data, "number"), "post")} of the last five runs are private: only people of the blog see them.`,
    remedy: "Choose another mode at Release.",
    link: bench(place, "release"),
  }),
  "posts.refused": (data, place) => ({
    found: `A person refused ${plural(number(data, "number"), "post")} of the last five runs.`,
    link: posts(place, "refused"),
  }),
};

/** The finding of one step in words; an unknown code is shown as it is. */
export function findingWords(finding: Finding, place: Place): FindingWords {
  const worded = WORDS[finding.code]?.(finding.data, place);
  return {
    found: worded?.found ?? finding.code,
    remedy: worded?.remedy ?? "",
    link: worded?.link ?? null,
    further: worded?.further ?? null,
  };
}

export const KNOWN_FINDINGS = Object.keys(WORDS);
