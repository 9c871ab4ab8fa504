import type { ReactNode } from "react";

interface ScrollProps {
  label: string;
  className: string;
  children: ReactNode;
}

/** A scrolling part of the page, reachable by keyboard. */
export function Scroll({ label, className, children }: ScrollProps) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset is for fields
    <div
      role="group"
      aria-label={label}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must take the focus
      tabIndex={0}
      className={`overflow-auto -outline-offset-2 ${className}`}
    >
      {children}
    </div>
  );
}
