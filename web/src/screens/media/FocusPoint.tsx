import type { KeyboardEvent, MouseEvent } from "react";

interface FocusPointProps {
  src: string;
  alt: string;
  x: number;
  y: number;
  disabled: boolean;
  onChange: (x: number, y: number) => void;
}

const STEP = 0.05;
const within = (value: number) => Math.min(1, Math.max(0, Math.round(value * 1000) / 1000));

/** The whole picture with its focus, moved by a click or the arrow keys. */
export function FocusPoint({ src, alt, x, y, disabled, onChange }: FocusPointProps) {
  function clicked(event: MouseEvent<HTMLButtonElement>) {
    // A key press on the button arrives as a click without a position.
    if (event.detail === 0) return;
    const box = event.currentTarget.getBoundingClientRect();
    onChange(within((event.clientX - box.left) / box.width), within((event.clientY - box.top) / box.height));
  }

  function pressed(event: KeyboardEvent) {
    const moves: Record<string, readonly [number, number]> = {
      ArrowLeft: [-STEP, 0],
      ArrowRight: [STEP, 0],
      ArrowUp: [0, -STEP],
      ArrowDown: [0, STEP],
    };
    const move = moves[event.key];
    if (!move) return;
    event.preventDefault();
    onChange(within(x + move[0]), within(y + move[1]));
  }

  return (
    <button
      type="button"
      disabled={disabled}
      aria-label={`Focus at ${Math.round(x * 100)}% from the left, ${Math.round(y * 100)}% from the top. Arrow keys move it.`}
      className="relative block w-full cursor-crosshair overflow-hidden rounded-lg bg-sunk"
      onClick={clicked}
      onKeyDown={pressed}
    >
      <img src={src} alt={alt} className="block w-full" />
      <span
        aria-hidden="true"
        className="absolute size-6 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-white shadow-[0_0_0_2px_rgb(0_0_0/0.6)]"
        style={{ left: `${x * 100}%`, top: `${y * 100}%` }}
      />
    </button>
  );
}
