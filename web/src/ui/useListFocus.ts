import { type FocusEvent, useEffect, useRef } from "react";

/**
 * Keep the focus in a list: when the row that has it goes away, the row that comes to its place takes it.
 * Spread what it gives over the list. The rows are its children.
 */
export function useListFocus<E extends HTMLElement>() {
  const list = useRef<E>(null);
  const place = useRef<number | null>(null);
  // After each drawing of the list: a row may be gone, and the focus with it.
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
      // Gone to another part of the page by the person; a row that goes away names nothing.
      if (relatedTarget && !list.current?.contains(relatedTarget)) place.current = null;
    },
  };
}
