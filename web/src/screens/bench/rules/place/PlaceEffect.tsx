import type { BenchState } from "../../useBench";
import { Effect } from "../Effect";

/** On how many items of the proof a rule gave a name. */
export function PlaceEffect({ bench, rule }: { bench: BenchState; rule: string }) {
  const all = bench.proof.data?.items.length ?? 0;
  return (
    <Effect
      verb="applies to"
      effect={bench.proof.data?.rules[`place.${rule}`]}
      of={all}
      bar="bg-ochre-mark"
    />
  );
}
