import clsx from "clsx";
import type { CampaignDocument } from "@/api/campaigns";
import type { Proof, Stage } from "@/api/proofs";
import { count } from "@/lib/format";
import { band } from "@/lib/funnel";
import { reasonName, STAGE_NAMES, STAGES } from "@/lib/wording";
import { Outcome } from "./Outcome";
import { stageNote } from "./stage-note";

interface FunnelProps {
  proof: Proof | undefined;
  document: CampaignDocument;
  stage: Stage;
  onStage: (stage: Stage) => void;
}

const WIDTH = 1280;
const HEIGHT = 62;

interface StageCounts {
  entered: number;
  through: number;
  reasons: string;
}

function countsOf(proof: Proof, stage: Stage): StageCounts {
  const found = proof.stages.find((one) => one.stage === stage);
  const gone = stage === "release" ? 0 : (found?.left.reduce((sum, reason) => sum + reason.count, 0) ?? 0);
  const byCode = new Map<string, number>();
  for (const reason of found?.left ?? [])
    byCode.set(reason.code, (byCode.get(reason.code) ?? 0) + reason.count);
  const reasons = [...byCode].map(([code, number]) => `${reasonName(code)} ${number}`).join(" · ");
  return { entered: found?.entered ?? 0, through: (found?.entered ?? 0) - gone, reasons };
}

function Loss({ stage, counts }: { stage: Stage; counts: StageCounts }) {
  const gone = counts.entered - counts.through;
  if (!gone) return <span className="text-ink3">all pass</span>;
  return (
    <>
      <span className={clsx("font-semibold", stage === "match" ? "text-indigo" : "text-madder")}>
        −{count(gone)}
      </span>{" "}
      {counts.reasons}
    </>
  );
}

/** The proof as a band that narrows where items leave. Choosing a stage opens its rules. */
export function Funnel({ proof, document, stage, onStage }: FunnelProps) {
  const held = proof?.items.filter((item) => item.verdict === "hold").length ?? 0;
  const kept = proof?.items.filter((item) => item.left_at === null).length ?? 0;
  const drawn = band(
    proof?.stages.map((stage) => stage.entered) ?? [0, 0, 0, 0, 0, 0],
    kept,
    held,
    WIDTH,
    HEIGHT,
  );
  return (
    <section
      aria-label="Funnel of the proof"
      className="relative shrink-0 border-b border-line bg-sheet lg:h-[150px]"
    >
      <h2 className="sr-only">Funnel</h2>
      <svg
        aria-hidden="true"
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        preserveAspectRatio="none"
        className="absolute top-[44px] left-0 hidden h-[62px] w-full lg:block"
      >
        <path d={drawn.outline} className="fill-verd opacity-15 transition-[d] duration-200" />
        <path d={drawn.held} className="fill-ochre-mark opacity-55" />
        <path
          d={drawn.top}
          className="fill-none stroke-verd"
          strokeWidth="1.4"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <div className="grid grid-cols-3 lg:absolute lg:inset-0 lg:grid-cols-6">
        {STAGES.map((one) => {
          const counts = proof ? countsOf(proof, one) : { entered: 0, through: 0, reasons: "" };
          return (
            <button
              key={one}
              type="button"
              aria-pressed={one === stage}
              onClick={() => onStage(one)}
              className={clsx(
                "relative flex min-h-[86px] flex-col items-start border-r border-line2 px-3.5 py-2 text-left last:border-0 hover:bg-verd/5",
                one === stage &&
                  "bg-verd/6 after:absolute after:inset-x-0 after:-bottom-px after:h-[3px] after:bg-verd",
              )}
            >
              <span className="font-display text-sm font-semibold">{STAGE_NAMES[one]}</span>
              <span className="absolute top-2 right-3.5 text-[17px] font-semibold">
                {proof ? count(counts.through) : "–"}
              </span>
              <span className="max-w-full truncate text-[11.5px] text-ink3">{stageNote(one, document)}</span>
              <span className="absolute right-2 bottom-2 left-3.5 line-clamp-2 text-[11.5px] leading-snug text-ink2">
                {proof &&
                  (one === "release" ? (
                    <Outcome items={proof.items} />
                  ) : (
                    <Loss stage={one} counts={counts} />
                  ))}
              </span>
            </button>
          );
        })}
      </div>
    </section>
  );
}
