import { useEffect, useRef } from "react";

/** What a press of a key does; nothing for one that is left to others. */
export type ActOf = (event: KeyboardEvent, at: Element | null) => (() => unknown) | undefined;

/** Keys for the whole window, wherever the focus is. */
export function useKeys(actOf: ActOf, on = true) {
  const latest = useRef(actOf);
  latest.current = actOf;
  useEffect(() => {
    if (!on) return;
    function pressed(event: KeyboardEvent) {
      const act = latest.current(event, event.target instanceof Element ? event.target : null);
      if (!act) return;
      event.preventDefault();
      act();
    }
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [on]);
}
