import { useEffect, useRef } from "react";
import type { ReviewState } from "./useReview";

/** The effect of each key, in the order shown. */
export const KEYS: readonly (readonly [string, string])[] = [
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

/** Actions of keys other than decisions. */
export interface ReviewDoes {
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
      const does: Record<string, (() => void) | undefined> = {
        j: () => desk.step(1),
        k: () => desk.step(-1),
        // The space bar presses a focused button.
        " ": at?.closest("button, a") ? undefined : able ? desk.mark : undefined,
        p: able ? () => desk.decide("published") : undefined,
        x: able ? () => desk.decide("refused") : undefined,
        d: able ? () => desk.decide("draft") : undefined,
        s: able ? other.schedule : undefined,
        r: able ? other.refuse : undefined,
        e: other.edit,
        u: able ? other.takeBack : undefined,
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
