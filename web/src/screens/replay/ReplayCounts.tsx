import clsx from "clsx";
import type { Outcome, Replay } from "@/api/replay";
import { count } from "@/lib/format";
import { Lozenge } from "@/ui/Lozenge";
import { OUTCOMES } from "./outcomes";

interface ReplayCountsProps {
  replay: Replay;
  chosen: Outcome;
  onChoose: (outcome: Outcome) => void;
}

/** The number of items by outcome; pressing one lists them. */
export function ReplayCounts({ replay, chosen, onChoose }: ReplayCountsProps) {
  return (
    <div className="grid grid-cols-2 gap-3 md:grid-cols-5">
      {OUTCOMES.map(({ outcome, head, text, kind }) => (
        <button
          key={outcome}
          type="button"
          aria-pressed={outcome === chosen}
          className={clsx(
            "sheet-card px-4 py-3 text-left hover:bg-chalk",
            outcome === chosen && "outline-2 outline-verd",
          )}
          onClick={() => onChoose(outcome)}
        >
          <span className="flex items-center gap-2 font-semibold">
            <Lozenge kind={kind} /> {head}
          </span>
          <span className="block text-2xl font-semibold tabular-nums">
            {count(replay.counts[outcome] ?? 0)}
          </span>
          <span className="block text-xs text-ink3">{text}</span>
        </button>
      ))}
    </div>
  );
}
