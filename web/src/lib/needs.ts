import type { Source } from "@/api/sources";
import type { Need } from "@/api/today";
import { desk } from "./blog-path";
import { moment, plural } from "./format";
import { healthWords } from "./health";

/** A task for a person in words, with its action. */
export interface NeedWords {
  title: string;
  text: string;
  action: { to: string; name: string };
  tone: "bad" | "wait" | "note";
}

type Judged = Pick<
  Source,
  "health" | "health_data" | "failing_since" | "next_read_at" | "read_detail" | "remedy"
>;

function source(blog: string, data: Need["data"], tone: NeedWords["tone"]): NeedWords {
  return {
    title: String(data.title),
    text: healthWords(data as unknown as Judged),
    action: { to: desk.source(blog, String(data.key)), name: "Look at the source" },
    tone,
  };
}

function together(data: Need["data"]): string {
  const titles = data.titles as string[];
  const others = Number(data.number) - titles.length;
  const since = data.since ? ` since ${moment(String(data.since))}` : "";
  const named = `${titles.join(", ")}${others > 0 ? ` and ${others} more` : ""}`;
  return `They ${data.says}${since}: ${named}. ${data.remedy}`;
}

export function needWords(blog: string, { code, data }: Need): NeedWords {
  switch (code) {
    case "source_gone":
    case "source_failing":
      return source(blog, data, "bad");
    case "sources_failing":
      return {
        title: `${plural(Number(data.number), "source")} at ${data.host}`,
        text: together(data),
        action: {
          to: desk.sources(blog, { search: String(data.host), health: String(data.health) }),
          name: "Look at them",
        },
        tone: "bad",
      };
    case "more_sources":
      return {
        title: `${plural(Number(data.number), "more source")} need${Number(data.number) === 1 ? "s" : ""} you`,
        text: "They come after the ones above: fewer at a time, or for a shorter time.",
        action: { to: desk.sources(blog, { sort: "health" }), name: "See them all" },
        tone: "note",
      };
    case "source_changed":
    case "source_quiet":
      return source(blog, data, "note");
    case "run_failed":
      return {
        title: `The last run of “${data.campaign}” failed`,
        text: String(data.failure),
        action: { to: desk.run(blog, Number(data.run)), name: "Open the run" },
        tone: "bad",
      };
    case "posts_held":
      return {
        title: `${plural(Number(data.number), "post")} held`,
        text: "They go out when a person publishes them.",
        action: { to: desk.review(blog), name: "Review them" },
        tone: "wait",
      };
    case "comments":
      return {
        title: plural(Number(data.number), "new comment"),
        text: "Readers see them when a person shows them.",
        action: { to: desk.comments(blog), name: "Read them" },
        tone: "wait",
      };
    case "corrections":
      return {
        title: `${plural(Number(data.number), "published post")} corrected by their sources`,
        text: "Each shows the differences, and takes them over at one click.",
        action: { to: desk.posts(blog, { corrected: "true" }), name: "Look at them" },
        tone: "note",
      };
    case "prices_held":
      return {
        title: `${plural(Number(data.number), "price")} held`,
        text: "They differ so much from the ones before that a person should look. Readers see no price meanwhile.",
        action: { to: desk.offers(blog, "held"), name: "Look at them" },
        tone: "wait",
      };
    case "prices_old":
      return {
        title: `${plural(Number(data.number), "price")} too old to show`,
        text: "Readers see the way to the shop instead. A larger quota, or fewer products in posts, would keep them fresh.",
        action: { to: desk.offers(blog, "old"), name: "Look at them" },
        tone: "note",
      };
    case "no_disclosure":
      return {
        title: "No line says that links earn",
        text: `The blog has partner links to ${plural(Number(data.number), "host")}, and no disclosure under its posts.`,
        action: { to: desk.offerRules(blog), name: "Write it" },
        tone: "note",
      };
    case "hub_failing":
      return {
        title: "The hub is not told of new posts",
        text: `${data.hub}: ${data.failure} It is asked again by itself.`,
        action: { to: desk.settings(blog), name: "Check its address" },
        tone: "note",
      };
    case "service_failing":
      return {
        title: `${plural(Number(data.texts), "text waits", "texts wait")} for a language service`,
        text: `“${data.service}”: ${data.detail} What waits is asked for in the next run.`,
        action: { to: desk.services(blog), name: "Look at it" },
        tone: "note",
      };
    case "end_near":
      return {
        title: `“${data.campaign}” ends soon`,
        text: `Its last day is ${data.day}.`,
        action: { to: desk.bench(blog, String(data.slug)), name: "Open the campaign" },
        tone: "note",
      };
  }
}
