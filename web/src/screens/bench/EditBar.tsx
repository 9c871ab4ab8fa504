import { ProblemError } from "@/api/client";
import { changeSummary } from "@/lib/proof-changes";
import type { BenchState } from "./useBench";

function summary({ proof }: BenchState): string {
  if (proof.error instanceof ProblemError && proof.error.faults.length)
    return "The rules have an error. See it above the list.";
  if (proof.error) return "No proof could be made of these edits.";
  return proof.due || !proof.data ? "The proof is being made…" : changeSummary(proof.data.items);
}

/** The effect of unsaved edits, or the differences from an earlier revision. */
export function EditBar({ bench }: { bench: BenchState }) {
  const button = "rounded px-2 py-0.5 hover:bg-plum/15 disabled:opacity-50";
  return (
    <footer className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-3.5 gap-y-1 border-t border-plum/30 bg-plum-wash px-4 text-plum">
      <span aria-hidden="true">◈</span>
      <span aria-live="polite">
        {bench.edited && <span className="sr-only">Edits not saved. </span>}
        {bench.against !== null && <span className="font-semibold">Against revision {bench.against}: </span>}
        {summary(bench)}
      </span>
      <span className="ml-auto flex gap-1 font-medium">
        <button
          type="button"
          className={button}
          disabled={!bench.canUndo}
          onClick={bench.undo}
          title="Ctrl+Z"
        >
          Undo last
        </button>
        <button
          type="button"
          className={button}
          disabled={!bench.canRedo}
          onClick={bench.redo}
          title="Ctrl+Shift+Z"
        >
          Redo
        </button>
        {bench.edited && (
          <button type="button" className={button} onClick={bench.discard}>
            Discard
          </button>
        )}
        {bench.against !== null && (
          <button type="button" className={button} onClick={() => bench.setAgainst(null)}>
            Compare with the saved rules
          </button>
        )}
      </span>
    </footer>
  );
}
