import { useEffect, useRef } from "react";
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
  const latest = useRef({ review, may, does });
  latest.current = { review, may, does };
  useEffect(() => {
    function pressed(event: KeyboardEvent) {
      const at = event.target instanceof Element ? event.target : null;
      if (event.ctrlKey || event.metaKey || event.altKey || at?.closest(TYPING)) return;
      const { review: desk, may: able, does: other } = latest.current;
      const decide = (act: () => void) => (able ? act : other.refuseToViewer);
      const does: Record<string, (() => void) | undefined> = {
        j: () => desk.step(1),
        k: () => desk.step(-1),
        // The space bar presses a focused button.
        " ": at?.closest("button, a") ? undefined : able ? desk.mark : undefined,
        p: decide(() => desk.decide("published")),
        x: decide(() => desk.decide("refused")),
        d: decide(() => desk.decide("draft")),
        s: decide(other.schedule),
        r: decide(other.refuse),
        e: decide(other.edit),
        u: decide(other.takeBack),
        l: other.changes,
        o: () => desk.post?.link && window.open(desk.post.link, "_blank", "noopener"),
        "?": other.help,
      };
      const what = does[event.key.toLowerCase()];
      if (!what) return;
      event.preventDefault();
      what();
    }
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);
}
