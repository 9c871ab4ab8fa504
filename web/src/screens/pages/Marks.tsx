import clsx from "clsx";
import { memo } from "react";

export interface MarkGroup {
  name: string;
  places: readonly number[];
  /** The present target is highlighted. */
  active: boolean;
}

interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

const MOST_MARKS = 400;

export function boxOf(element: Element): Box {
  const { left, top, width, height } = element.getBoundingClientRect();
  return { left, top, width, height };
}

interface MarksProps {
  groups: readonly MarkGroup[];
  find: (place: number) => Element | null;
  /** Incremented whenever the page may have moved, to redraw the marks. */
  ready: number;
}

/** The marks over a page, redrawn only when they or the page change. */
export const Marks = memo(function Marks({ groups, find }: MarksProps) {
  return groups.flatMap((group) =>
    group.places.slice(0, MOST_MARKS).map((place, number) => {
      const element = find(place);
      if (!element) return null;
      const box = boxOf(element);
      if (!box.width || !box.height) return null;
      return (
        <span
          key={`${group.name}-${place}`}
          className={clsx(
            "pointer-events-none absolute border-2",
            group.active ? "border-[#0b6b5f] bg-[#0b6b5f]/10" : "border-dashed border-[#43539e]/70",
          )}
          style={{ left: box.left - 3, top: box.top - 2, width: box.width + 6, height: box.height + 4 }}
        >
          {number === 0 && (
            <span
              className={clsx(
                "absolute -top-[18px] right-[-2px] rounded-t px-1.5 font-sans text-[10.5px] font-semibold whitespace-nowrap text-white",
                group.active ? "bg-[#0b6b5f]" : "bg-[#43539e]",
              )}
            >
              {group.name}
            </span>
          )}
        </span>
      );
    }),
  );
});
