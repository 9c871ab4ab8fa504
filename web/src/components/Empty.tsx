import type { ReactNode } from "react";
import { Lozenge } from "@/ui/Lozenge";

/** An empty place, with what to do next. */
export function Empty({ title, text, children }: { title: string; text: string; children?: ReactNode }) {
  return (
    <div className="mx-auto max-w-md px-6 py-14 text-center">
      <Lozenge kind="draft" className="mx-auto mb-3 scale-[2]" />
      <h2 className="text-lg">{title}</h2>
      <p className="mt-1 mb-4 text-ink2">{text}</p>
      {children}
    </div>
  );
}
