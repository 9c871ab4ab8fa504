import type { BenchState } from "../../useBench";
import { Effect } from "../Effect";

/** The number of items of the proof that a rule named. */
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
