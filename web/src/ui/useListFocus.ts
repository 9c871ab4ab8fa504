import { type FocusEvent, useEffect, useRef } from "react";

/**
 * Keeps the focus in a list: when the focused row disappears, the row at its position is focused.
 * Spread the result over the list. The rows are its children.
 */
export function useListFocus<E extends HTMLElement>() {
  const list = useRef<E>(null);
  const place = useRef<number | null>(null);
  // After each render a row may be gone, and the focus with it.
  useEffect(() => {
    if (place.current === null || !list.current || document.activeElement !== document.body) return;
    const rows = list.current.children;
    rows[Math.min(place.current, rows.length - 1)]?.querySelector<HTMLElement>("a, button")?.focus();
  });
  return {
    ref: list,
    onFocus: ({ target }: FocusEvent) => {
      const row = [...(list.current?.children ?? [])].findIndex((child) => child.contains(target));
      place.current = row < 0 ? null : row;
    },
    onBlur: ({ relatedTarget }: FocusEvent) => {
      // The person moved the focus elsewhere; a removed row has no related target.
      if (relatedTarget && !list.current?.contains(relatedTarget)) place.current = null;
    },
  };
}
