import { differences } from "@/lib/document-diff";
import { moment, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import type { BenchState } from "./useBench";

/** Notices about edits: restored from a draft, or overtaken by another person's save. */
export function Notices({ bench }: { bench: BenchState }) {
  const { conflict, restored } = bench;
  return (
    <>
      {restored.at && (
        <div
          role="status"
          className="flex shrink-0 items-center gap-3 border-b border-plum/30 bg-plum-wash px-4 py-2 text-plum"
        >
          <span>
            Your edits of {moment(restored.at)} were not saved. They are back on the bench, from a draft in
            this browser.
          </span>
          <span className="ml-auto flex gap-2">
            <Button small onClick={restored.accept}>
              Keep editing
            </Button>
            <Button
              small
              onClick={() => {
                bench.discard();
                restored.accept();
              }}
            >
              Discard these edits
            </Button>
          </span>
        </div>
      )}
      {conflict.theirs && (
        <div role="alert" className="shrink-0 border-b border-ochre/40 bg-ochre-wash px-4 py-2">
          <p className="font-semibold text-ochre">
            {conflict.theirs.saved_by || "Somebody"} has saved revision {conflict.theirs.revision} while you
            were editing revision {bench.revision}.
          </p>
          <details className="text-xs text-ink2">
            <summary className="cursor-pointer">
              {plural(differences(bench.saved, conflict.theirs.document).length, "place", "places")} changed
              there
            </summary>
            <ul className="max-h-32 overflow-auto py-1">
              {differences(bench.saved, conflict.theirs.document).map((one) => (
                <li key={one.path}>
                  {one.path}: {one.before && <del className="text-madder">{one.before}</del>}{" "}
                  <span className="text-verd">{one.after}</span>
                </li>
              ))}
            </ul>
          </details>
          <div className="mt-1.5 flex flex-wrap gap-2">
            <Button small look="primary" onClick={conflict.putOnTop}>
              Put my edits on top of it
            </Button>
            <Button small onClick={conflict.takeTheirs}>
              Take their rules
            </Button>
            <Button small onClick={conflict.keepMine}>
              Keep my rules as they are
            </Button>
          </div>
        </div>
      )}
      {conflict.clashes && (
        <div
          role="status"
          className="flex shrink-0 items-start gap-3 border-b border-plum/30 bg-plum-wash px-4 py-2 text-plum"
        >
          <span className="min-w-0">
            {conflict.clashes.length === 0
              ? "Your edits stand on top of theirs. Nothing was changed by both."
              : `Your edits stand on top of theirs. Both of you changed: ${conflict.clashes.join("; ")}. Yours stand there now.`}
          </span>
          <Button small className="ml-auto" onClick={conflict.acceptClashes}>
            OK
          </Button>
        </div>
      )}
    </>
  );
}
