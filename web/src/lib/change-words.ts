import type { PostChange } from "@/api/posts";
import { plural } from "./format";

const DONE: Record<string, string> = {
  moved: "decided about",
  edited: "edited",
  written: "wrote",
  let_through: "let through",
  category: "moved to another category",
  tags: "changed tags of",
  byline: "set the byline of",
  binned: "put into the bin",
  restored: "restored",
  edition: "made again",
  replayed: "brought to the rules",
  corrected: "followed what the source corrected in",
  taken_back: "took back a change of",
};

const MOVED: Record<string, string> = {
  published: "published",
  scheduled: "scheduled",
  held: "held",
  draft: "made a draft of",
  refused: "refused",
  binned: "put into the bin",
};

/** A change in words: “put into the bin 12 posts”. One that is over counts what it has changed. */
export function changeWords(change: PostChange): string {
  const number = change.state === "done" ? change.changed : change.posts;
  const what = change.posts === 1 && change.subject ? `“${change.subject}”` : plural(number, "post");
  const done = change.action === "moved" ? MOVED[change.to] : undefined;
  return `${done ?? DONE[change.action] ?? change.action} ${what}`;
}

/** The progress of a change, or its result. */
export function changeState(change: PostChange): string {
  if (change.taken_back) return "taken back";
  if (change.state === "waiting" || change.state === "running") return `${change.done} of ${change.posts}`;
  const left = change.posts - change.changed;
  const told = change.state === "done" ? "" : `${change.state} after ${change.changed}`;
  return [
    told,
    change.state === "done" && left > 0 ? `${left} left as ${left === 1 ? "it was" : "they were"}` : "",
  ]
    .filter(Boolean)
    .join(", ");
}
