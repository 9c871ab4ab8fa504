import type { Source } from "@/api/sources";
import type { Need } from "@/api/today";
import { desk } from "./blog-path";
import { plural } from "./format";
import { healthWords } from "./health";

/** A task for a person in words, with its action. */
export interface NeedWords {
  title: string;
  text: string;
  action: { to: string; name: string };
  tone: "bad" | "wait" | "note";
}

type Judged = Pick<Source, "health" | "health_data" | "failing_since" | "next_read_at" | "read_detail">;

function source(blog: string, data: Need["data"], tone: NeedWords["tone"]): NeedWords {
  return {
    title: String(data.title),
    text: healthWords(data as unknown as Judged),
    action: { to: desk.source(blog, String(data.key)), name: "Look at the source" },
    tone,
  };
}

export function needWords(blog: string, { code, data }: Need): NeedWords {
  switch (code) {
    case "source_gone":
    case "source_failing":
      return source(blog, data, "bad");
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
    case "end_near":
      return {
        title: `“${data.campaign}” ends soon`,
        text: `Its last day is ${data.day}.`,
        action: { to: desk.bench(blog, String(data.slug)), name: "Open the campaign" },
        tone: "note",
      };
  }
}
