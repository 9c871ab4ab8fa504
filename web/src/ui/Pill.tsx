import clsx from "clsx";
import type { ReactNode } from "react";

export type PillTone = "verd" | "ochre" | "madder" | "indigo" | "plum" | "plain";

const TONES: Record<PillTone, string> = {
  verd: "bg-verd-wash text-verd-deep",
  ochre: "bg-ochre-wash text-ochre",
  madder: "bg-madder-wash text-madder",
  indigo: "bg-indigo-wash text-indigo",
  plum: "bg-plum-wash text-plum",
  plain: "bg-sunk text-ink2",
};

export function Pill({ tone = "plain", children }: { tone?: PillTone; children: ReactNode }) {
  return (
    <span className={clsx("rounded-[5px] px-2 py-0.5 text-xs font-medium whitespace-nowrap", TONES[tone])}>
      {children}
    </span>
  );
}
