import type { ProofRow } from "@/api/proofs";
import { plural } from "@/lib/format";
import type { BenchState } from "./useBench";

function summary(items: readonly ProofRow[] | undefined): string {
  if (!items) return "The proof is being made…";
  const changed = items.filter((item) => item.was);
  if (!changed.length) return "No item of the proof changes.";
  const kept = changed.filter((item) => item.left_at === null && item.was?.left_at !== null).length;
  const gone = changed.filter((item) => item.left_at !== null && item.was?.left_at === null).length;
  const rest = changed.length - kept - gone;
  const parts = [
    kept && `${kept} now kept`,
    gone && `${gone} now refused`,
    rest && `${rest} worded, placed or explained otherwise`,
  ];
  return `${plural(changed.length, "item changes", "items change")}: ${parts.filter(Boolean).join(", ")}`;
}

/** What the edits that are not saved yet would change. */
export function EditBar({ bench }: { bench: BenchState }) {
  const button = "rounded px-2 py-0.5 hover:bg-plum/15 disabled:opacity-50";
  return (
    <footer className="flex h-10 shrink-0 items-center gap-3.5 border-t border-plum/30 bg-plum-wash px-4 text-plum">
      <span aria-hidden="true">◈</span>
      <span aria-live="polite">
        <span className="sr-only">Edits not saved. </span>
        {bench.proof.error
          ? "The rules do not hold as they stand."
          : summary(bench.proof.due ? undefined : bench.proof.data?.items)}
      </span>
      <span className="ml-auto flex gap-1 font-medium">
        <button type="button" className={button} disabled={!bench.steps} onClick={bench.undo} title="Ctrl+Z">
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
        <button type="button" className={button} onClick={bench.discard}>
          Discard
        </button>
      </span>
    </footer>
  );
}
