import clsx from "clsx";
import { Progress } from "radix-ui";
import type { Verdict } from "@/api/proofs";
import { isUnderWay, type Run } from "@/api/runs";
import { count, moment, plural } from "@/lib/format";
import { Lozenge } from "@/ui/Lozenge";

const VERDICTS: readonly { verdict: Verdict; words: string; colour: string }[] = [
  { verdict: "publish", words: "published", colour: "bg-verd" },
  { verdict: "hold", words: "held for review", colour: "bg-ochre-mark" },
  { verdict: "scheduled", words: "scheduled", colour: "bg-verd/60" },
  { verdict: "private", words: "private", colour: "bg-verd/40" },
  { verdict: "draft", words: "drafts", colour: "bg-ink3" },
  { verdict: "duplicate", words: "duplicates", colour: "bg-indigo" },
  { verdict: "refused", words: "refused", colour: "bg-madder" },
];

function Stage({ run, decided }: { run: Run; decided: number }) {
  if (run.state === "waiting") return <>Waiting for a worker to take it.</>;
  if (run.state === "gathering") {
    return (
      <>
        Reading {run.sources_read} of {plural(run.sources, "source")} · {plural(run.fresh, "new item")} so far
      </>
    );
  }
  return (
    <>
      {plural(run.fresh, "new item")} from {plural(run.sources, "source")} · {count(decided)} of{" "}
      {count(run.to_decide)} decided
    </>
  );
}

interface RunCountsProps {
  run: Run;
  chosen: Verdict | "";
  onChoose: (verdict: Verdict | "") => void;
}

/** The progress and counts of a run; choosing a count lists its items. */
export function RunCounts({ run, chosen, onChoose }: RunCountsProps) {
  const decided = Object.values(run.verdicts).reduce((sum, number) => sum + number, 0);
  const total = Math.max(run.to_decide, decided, 1);
  const waiting = run.state === "done" ? Math.max(0, run.to_decide - decided - run.texts_waiting) : 0;
  return (
    <section aria-label="Progress" className="sheet-card p-4">
      <p className="mb-2 font-medium" aria-live="polite">
        <Stage run={run} decided={decided} />
      </p>
      <Progress.Root
        value={decided}
        max={total}
        aria-label="Items decided"
        className={clsx("flex h-3 overflow-hidden rounded-full bg-sunk", isUnderWay(run) && "animate-pulse")}
      >
        {VERDICTS.map(({ verdict, colour }) => (
          <span
            key={verdict}
            className={clsx("h-full transition-[width] duration-300", colour)}
            style={{ width: `${((run.verdicts[verdict] ?? 0) / total) * 100}%` }}
          />
        ))}
      </Progress.Root>
      {run.taken_back_at && (
        <p className="mt-2 text-ochre">
          The run was taken back on {moment(run.taken_back_at)}. This is what it had decided: its posts went
          into the bin, and its items are undecided again.
        </p>
      )}
      {run.texts_waiting > 0 && (
        <p className="mt-2 text-ink2">
          {plural(run.texts_waiting, "item waits for its text", "items wait for their texts")}: language
          services are asked, and the run that begins then decides them.
        </p>
      )}
      {waiting > 0 && (
        <p className="mt-2 text-ink2">
          {plural(waiting, "item waits", "items wait")} for a later run: this one has made as many posts as
          its limit or its pace allows.
        </p>
      )}
      <div className="mt-3 grid grid-cols-[repeat(auto-fit,minmax(110px,1fr))] gap-2">
        {VERDICTS.map(({ verdict, words }) => (
          <button
            key={verdict}
            type="button"
            aria-pressed={chosen === verdict}
            onClick={() => onChoose(chosen === verdict ? "" : verdict)}
            className={clsx(
              run.taken_back_at && "text-ink3 line-through decoration-ink3",
              "rounded-lg border border-line2 px-3 py-2 text-left hover:bg-chalk aria-pressed:border-ink aria-pressed:bg-chalk",
            )}
          >
            <span className="text-xl font-semibold">{count(run.verdicts[verdict] ?? 0)}</span>
            <span className="flex items-center gap-1.5 text-xs text-ink2">
              <Lozenge kind={verdict} /> {words}
            </span>
          </button>
        ))}
      </div>
    </section>
  );
}
