import { useKeys } from "@/ui/useKeys";
import type { ReviewState } from "./useReview";

/** The effect of each key, in the order shown. */
const KEYS: readonly (readonly [string, string])[] = [
  ["J", "next post; this one is skipped"],
  ["K", "post before"],
  ["Space", "mark it, and go on"],
  ["P", "publish"],
  ["S", "schedule"],
  ["X", "refuse"],
  ["R", "refuse with a reason, or make a rule of it"],
  ["D", "make it a draft"],
  ["E", "edit"],
  ["U", "take back what you did last"],
  ["L", "the last changes of everybody"],
  ["O", "open the original"],
  ["?", "these keys"],
];

const TYPING = "input, textarea, select, [contenteditable], [role=menu], [role=dialog], [role=listbox]";

/** Keys of those who may only look. */
const LOOKING = "JKLO?";

/** The keys that a person has. */
export function keysOf(may: boolean): readonly (readonly [string, string])[] {
  return may ? KEYS : KEYS.filter(([key]) => LOOKING.includes(key));
}

/** Actions of keys other than decisions. */
export interface ReviewDoes {
  /** Says who may do what a key would do. */
  refuseToViewer: () => void;
  help: () => void;
  schedule: () => void;
  refuse: () => void;
  edit: () => void;
  takeBack: () => void;
  changes: () => void;
}

/** Keys for the whole desk, except in text fields and dialogs. */
export function useReviewKeys(review: ReviewState, may: boolean, does: ReviewDoes) {
  useKeys((event, at) => {
    if (event.ctrlKey || event.metaKey || event.altKey || at?.closest(TYPING)) return;
    const decide = (act: () => void) => (may ? act : does.refuseToViewer);
    const acts: Record<string, (() => void) | undefined> = {
      j: () => review.step(1),
      k: () => review.step(-1),
      // The space bar presses a focused button.
      " ": at?.closest("button, a") ? undefined : may ? review.mark : undefined,
      p: decide(() => review.decide("published")),
      x: decide(() => review.decide("refused")),
      d: decide(() => review.decide("draft")),
      s: decide(does.schedule),
      r: decide(does.refuse),
      e: decide(does.edit),
      u: decide(does.takeBack),
      l: does.changes,
      o: () => review.post?.link && window.open(review.post.link, "_blank", "noopener"),
      "?": does.help,
    };
    return acts[event.key.toLowerCase()];
  });
}
