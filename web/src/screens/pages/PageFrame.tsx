import clsx from "clsx";
import { type KeyboardEvent, type MouseEvent, useCallback, useRef, useState } from "react";
import { boxOf, type MarkGroup, Marks } from "./Marks";

interface PageFrameProps {
  address: string;
  label: string;
  groups: readonly MarkGroup[];
  /** Whether a click picks an element. */
  pointing: boolean;
  /** `out` is set where Alt is held, which leaves an element out. */
  onPoint: (place: number, out?: boolean) => void;
}

const PLACE = "data-place";
/** In pixels, the longest page that is scrolled. */
const TALLEST = 20_000;

function placeOf(element: Element | null): number | null {
  const value = element?.closest(`[${PLACE}]`)?.getAttribute(PLACE);
  return value ? Number(value) : null;
}

const STEPS: Record<string, (element: Element) => Element | null> = {
  ArrowUp: (element) => element.parentElement,
  ArrowDown: (element) => element.firstElementChild,
  ArrowLeft: (element) => element.previousElementSibling,
  ArrowRight: (element) => element.nextElementSibling,
};

/**
 * A page in a frame without scripts. Marks and the pointer are drawn over it, because the frame
 * itself receives no events.
 */
export function PageFrame({ address, label, groups, pointing, onPoint }: PageFrameProps) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(800);
  const [ready, setReady] = useState(0);
  const [at, setAt] = useState<number | null>(null);

  const inside = frame.current?.contentDocument ?? null;
  const find = useCallback(
    (place: number) => frame.current?.contentDocument?.querySelector(`[${PLACE}="${place}"]`) ?? null,
    [],
  );

  function measure() {
    const root = frame.current?.contentDocument?.documentElement;
    if (root) setHeight(Math.min(root.scrollHeight, TALLEST));
    setReady((before) => before + 1);
    // Late pictures move everything below them.
    window.setTimeout(() => setReady((before) => before + 1), 600);
  }

  function under(event: MouseEvent): number | null {
    const box = event.currentTarget.getBoundingClientRect();
    return placeOf(inside?.elementFromPoint(event.clientX - box.left, event.clientY - box.top) ?? null);
  }

  function step(event: KeyboardEvent) {
    if (event.key === "Enter" && at !== null) {
      event.preventDefault();
      onPoint(at, event.altKey || undefined);
      return;
    }
    const move = STEPS[event.key];
    if (!move) return;
    event.preventDefault();
    const from = at === null ? (inside?.body ?? null) : find(at);
    const to = at === null ? from : from && move(from);
    const place = placeOf(to);
    if (place === null || !to || to.tagName === "HTML") return;
    setAt(place);
    to.scrollIntoView({ block: "nearest" });
  }

  const current = at === null ? null : find(at);
  return (
    <div className="relative bg-white" data-ready={ready}>
      <iframe
        ref={frame}
        title={label}
        src={address}
        sandbox="allow-same-origin"
        onLoad={measure}
        tabIndex={-1}
        scrolling="no"
        className="block w-full border-0"
        style={{ height }}
      />
      <div
        role="application"
        aria-label={`${label}. Arrow keys walk through its elements, Enter points at one.`}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: elements are chosen by keys here
        tabIndex={0}
        className={clsx("absolute inset-0 overflow-hidden", pointing ? "cursor-crosshair" : "cursor-default")}
        onMouseMove={(event) => pointing && setAt(under(event))}
        onMouseLeave={() => setAt(null)}
        onClick={(event) => {
          const place = under(event);
          if (pointing && place !== null) onPoint(place, event.altKey || undefined);
        }}
        onKeyDown={pointing ? step : undefined}
      >
        <Marks groups={groups} find={find} ready={ready} />
        {pointing && current && (
          <span
            className="pointer-events-none absolute border-2 border-[#c98a1b] bg-[#c98a1b]/15"
            style={boxOf(current)}
          />
        )}
      </div>
      {pointing && (
        <p aria-live="polite" className="sr-only">
          {current
            ? `${current.tagName.toLowerCase()}: ${(current.textContent ?? "").trim().slice(0, 60)}`
            : ""}
        </p>
      )}
    </div>
  );
}
