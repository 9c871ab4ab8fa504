import clsx from "clsx";
import { ArrowDown, ArrowUp } from "lucide-react";
import type { ReactNode } from "react";
import { type ItemColumn, type ItemSort, nextSort } from "./shown-items";

interface ItemHeadsProps {
  sort: ItemSort | null;
  onSort: (sort: ItemSort | null) => void;
  /** Stands beside the head of the titles. */
  children: ReactNode;
}

const NAMES: readonly { column: ItemColumn; name: string; look: string }[] = [
  { column: "title", name: "Title", look: "" },
  { column: "category", name: "Category", look: "hidden @md:flex" },
  { column: "date", name: "Date", look: "justify-end" },
  { column: "words", name: "Words", look: "justify-end" },
];

/** The columns of the items and of their heads: mark, title, category where there is room, date, words. */
export const ITEM_GRID =
  "grid grid-cols-[16px_minmax(0,1fr)_44px_44px] @md:grid-cols-[16px_minmax(0,1fr)_92px_44px_44px] gap-x-2.5 px-3.5";

/** The heads above the items; clicks sort ascending, descending, then as in the proof. */
export function ItemHeads({ sort, onSort, children }: ItemHeadsProps) {
  return (
    <fieldset
      aria-label="Sort the items"
      className={clsx(
        ITEM_GRID,
        "shrink-0 items-center border-b border-line2 bg-chalk text-[11.5px] text-ink2",
      )}
    >
      <span />
      {NAMES.map(({ column, name, look }) => {
        const by = sort?.by === column ? sort : null;
        const Arrow = by?.down ? ArrowDown : ArrowUp;
        const head = (
          <button
            key={column}
            type="button"
            aria-pressed={by !== null}
            title={`Sort by ${name.toLowerCase()}`}
            className={clsx(
              "flex h-6 items-center gap-0.5 hover:text-ink",
              look,
              by && "font-semibold text-ink",
            )}
            onClick={() => onSort(nextSort(sort, column))}
          >
            {name}
            {by && <Arrow size={11} aria-hidden="true" />}
            {by && <span className="sr-only">{by.down ? ", highest first" : ", lowest first"}</span>}
          </button>
        );
        if (column !== "title") return head;
        return (
          <span key={column} className="flex min-w-0 items-center gap-3">
            {head}
            {children}
          </span>
        );
      })}
    </fieldset>
  );
}
