import { type RefObject, useEffect, useRef } from "react";

/**
 * Returns a function that focuses an element once it is rendered, because the focused element disappears with the
 * change and the focus would fall to the page.
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
