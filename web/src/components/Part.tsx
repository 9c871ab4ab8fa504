import { type ReactNode, useId } from "react";

/** A white sheet with a heading: one part of a screen of settings. */
export function Part({ title, text, children }: { title: string; text?: ReactNode; children: ReactNode }) {
  const id = useId();
  return (
    <section aria-labelledby={id} className="sheet-card p-5">
      <h2 id={id} className="text-base">
        {title}
      </h2>
      {text && <p className="mt-1 text-ink2">{text}</p>}
      <div className="mt-3">{children}</div>
    </section>
  );
}
