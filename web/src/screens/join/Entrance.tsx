import type { ReactNode } from "react";

/** A small centred sheet for people who followed a link in a mail. */
export function Entrance({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="grid min-h-full place-items-center bg-chalk p-6">
      <title>{`${title} · Glyptarch`}</title>
      <div className="w-[440px] max-w-full rounded-xl border border-line bg-sheet p-7 shadow-sm">
        <h1 className="mb-4 text-[22px]">{title}</h1>
        {children}
      </div>
    </main>
  );
}
