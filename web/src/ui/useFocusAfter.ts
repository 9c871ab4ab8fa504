import { type RefObject, useEffect, useRef } from "react";

/**
 * Give a function that puts the focus on an element once it is drawn: what had the focus goes away with the
 * change, and the focus would fall to the page.
 */
export function useFocusAfter<E extends HTMLElement>(target: RefObject<E | null>): () => void {
  const due = useRef(false);
  // After each render: the element may only now be there.
  useEffect(() => {
    if (!due.current || !target.current) return;
    due.current = false;
    target.current.focus();
  });
  return () => {
    due.current = true;
  };
}
