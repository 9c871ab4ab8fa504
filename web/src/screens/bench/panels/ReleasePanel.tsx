import { ModeChoice } from "@/components/ModeChoice";
import type { BenchState } from "../useBench";

export function ReleasePanel({ bench }: { bench: BenchState }) {
  return (
    <ModeChoice
      stacked
      value={bench.document.release.mode}
      onChange={(mode) => bench.change((document) => ({ ...document, release: { mode } }))}
    />
  );
}
