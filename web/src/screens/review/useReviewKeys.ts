import { useEffect, useRef } from "react";
import type { ReviewState } from "./useReview";

/** What each key does, in the order in which it is shown. */
export const KEYS: readonly (readonly [string, string])[] = [
  ["J", "next post"],
  ["K", "post before"],
  ["Space", "mark it, and go on"],
  ["P", "publish"],
  ["X", "refuse"],
  ["D", "make it a draft"],
  ["O", "open the original"],
  ["?", "these keys"],
];

const TYPING = "input, textarea, select, [contenteditable], [role=menu], [role=dialog], [role=listbox]";

/** Single keys for the whole desk, but not while something is typed or a dialog is open. */
export function useReviewKeys(review: ReviewState, may: boolean, onHelp: () => void) {
  const latest = useRef({ review, may, onHelp });
  latest.current = { review, may, onHelp };
  useEffect(() => {
    function pressed(event: KeyboardEvent) {
      const at = event.target instanceof Element ? event.target : null;
      if (event.ctrlKey || event.metaKey || event.altKey || at?.closest(TYPING)) return;
      const { review: desk, may: able, onHelp: help } = latest.current;
      const does: Record<string, (() => void) | undefined> = {
        j: () => desk.step(1),
        k: () => desk.step(-1),
        // A button that has the focus is pressed by the space bar.
        " ": at?.closest("button, a") ? undefined : able ? desk.mark : undefined,
        p: able ? () => desk.decide("published") : undefined,
        x: able ? () => desk.decide("refused") : undefined,
        d: able ? () => desk.decide("draft") : undefined,
        o: () => desk.post?.link && window.open(desk.post.link, "_blank", "noopener"),
        "?": help,
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
