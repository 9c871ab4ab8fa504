import type { Stage } from "@/api/proofs";
import { STAGE_NAMES } from "@/lib/wording";
import { DefaultsMark } from "./DefaultsMark";
import { GatherPanel } from "./panels/GatherPanel";
import { MatchPanel } from "./panels/MatchPanel";
import { PlacePanel } from "./panels/PlacePanel";
import { ReleasePanel } from "./panels/ReleasePanel";
import { ShapePanel } from "./panels/ShapePanel";
import { AddSiftRule, SiftPanel } from "./panels/SiftPanel";
import { SettingWarnings } from "./SettingWarnings";
import { TextsWanted } from "./TextsWanted";
import type { BenchState } from "./useBench";

const HINTS: Record<Stage, string> = {
  gather: "where items come from",
  sift: "an item must pass every rule",
  match: "duplicates",
  shape: "what the post looks like",
  place: "category, tags, byline, date",
  release: "how a post is published",
};

const PANELS = {
  gather: GatherPanel,
  sift: SiftPanel,
  match: MatchPanel,
  shape: ShapePanel,
  place: PlacePanel,
  release: ReleasePanel,
};

interface StagePanelProps {
  blog: string;
  slug: string;
  stage: Stage;
  bench: BenchState;
}

/** The rules of one stage, as sentences with words that can be changed. */
export function StagePanel({ blog, slug, stage, bench }: StagePanelProps) {
  const Panel = PANELS[stage];
  return (
    <section
      aria-label={`Rules of ${STAGE_NAMES[stage]}`}
      className="flex min-h-[320px] min-w-0 flex-col border-r border-line lg:min-h-0"
    >
      <div className="flex min-h-[42px] shrink-0 items-center gap-x-2 border-b border-line bg-sheet px-3.5">
        <h2 className="text-sm">{STAGE_NAMES[stage]}</h2>
        <span className="min-w-0 flex-1 truncate text-ink3">{HINTS[stage]}</span>
        <DefaultsMark blog={blog} stage={stage} document={bench.document} />
        {stage === "sift" && <AddSiftRule bench={bench} />}
      </div>
      <div className="min-h-0 flex-1 space-y-2 overflow-auto p-3">
        <SettingWarnings blog={blog} stage={stage} document={bench.document} />
        {stage === "shape" && bench.proof.data && (
          <TextsWanted blog={blog} slug={slug} asked={bench.asked} proof={bench.proof.data} item={null} />
        )}
        <Panel blog={blog} bench={bench} />
      </div>
    </section>
  );
}
