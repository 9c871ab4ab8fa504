import { useRef, useState } from "react";
import type { Post } from "@/api/posts";

/** The posts that are selected: some of those that are shown, or all that the filter finds. */
export function useSelection(rows: readonly Post[], filterKey: string) {
  const [chosen, setChosen] = useState<{ key: string; ids: ReadonlySet<number>; all: boolean }>({
    key: filterKey,
    ids: new Set(),
    all: false,
  });
  const last = useRef<number | null>(null);
  // Another filter shows other posts, so the selection is dropped.
  const ids = chosen.key === filterKey ? chosen.ids : new Set<number>();
  const all = chosen.key === filterKey && chosen.all;
  const set = (next: ReadonlySet<number>, whole = false) =>
    setChosen({ key: filterKey, ids: next, all: whole });
  const shown = rows.map(({ id }) => id);
  const wholePage = shown.length > 0 && (all || shown.every((id) => ids.has(id)));

  /** Select a post or not; with `range` all between it and the one before. */
  function toggle(id: number, range: boolean) {
    const on = !(all || ids.has(id));
    const from = last.current === null ? -1 : shown.indexOf(last.current);
    const to = shown.indexOf(id);
    const some = range && from >= 0 ? shown.slice(Math.min(from, to), Math.max(from, to) + 1) : [id];
    last.current = id;
    const base = all ? new Set(shown) : new Set(ids);
    for (const one of some)
      if (on) base.add(one);
      else base.delete(one);
    set(base);
  }

  return {
    ids: [...ids],
    all,
    number: ids.size,
    wholePage,
    has: (id: number) => all || ids.has(id),
    toggle,
    togglePage: () => set(wholePage ? new Set() : new Set([...ids, ...shown])),
    chooseAll: () => set(new Set(shown), true),
    clear: () => set(new Set()),
  };
}

export type PostSelection = ReturnType<typeof useSelection>;
