import type { ReactNode } from "react";

/** The white strip under the bar: name of the screen, facts, actions. */
export function Head({
  title,
  facts,
  children,
}: {
  title: ReactNode;
  facts?: ReactNode;
  children?: ReactNode;
}) {
  return (
    <header className="flex min-h-[58px] shrink-0 flex-wrap items-center gap-x-3.5 gap-y-1 border-b border-line bg-sheet px-4 py-2">
      {typeof title === "string" && <title>{`${title} · Glyptarch`}</title>}
      <h1 tabIndex={-1} className="line-clamp-2 min-w-0 text-[20px] break-words outline-none">
        {title}
      </h1>
      {facts}
      <div className="ml-auto flex flex-wrap items-center gap-3">{children}</div>
    </header>
  );
}
