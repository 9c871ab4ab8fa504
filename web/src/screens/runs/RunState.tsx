import { isUnderWay, type Run } from "@/api/runs";
import { Pill, type PillTone } from "@/ui/Pill";

const STATES: Record<Run["state"], { words: string; tone: PillTone }> = {
  waiting: { words: "waits for a worker", tone: "plain" },
  gathering: { words: "gathering", tone: "verd" },
  deciding: { words: "deciding", tone: "verd" },
  done: { words: "done", tone: "plain" },
  stopped: { words: "stopped", tone: "ochre" },
  failed: { words: "failed", tone: "madder" },
};

export function RunState({ run }: { run: Run }) {
  const state = STATES[run.state];
  if (run.taken_back_at) return <Pill tone="ochre">taken back</Pill>;
  if (run.stop_asked && isUnderWay(run)) return <Pill tone="ochre">stopping</Pill>;
  return <Pill tone={state.tone}>{state.words}</Pill>;
}
