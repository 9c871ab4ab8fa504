import type { ReactNode } from "react";

/** A link for the keyboard, visible on focus, that skips a part of the page. */
export function SkipLink({ to, children }: { to: string; children: ReactNode }) {
  return (
    <button
      type="button"
      className="sr-only focus:not-sr-only focus:fixed focus:top-1 focus:left-1 focus:z-50 focus:rounded-md focus:bg-sheet focus:px-3 focus:py-1.5 focus:font-semibold focus:text-verd focus:shadow-lg"
      onClick={() => document.getElementById(to)?.focus()}
    >
      {children}
    </button>
  );
}
