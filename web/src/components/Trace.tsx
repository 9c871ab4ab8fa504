import type { Decision, Note, Stage } from "@/api/proofs";
import { plural } from "@/lib/format";
import { STAGE_NAMES, STAGES } from "@/lib/wording";
import { Lozenge, type LozengeKind } from "@/ui/Lozenge";
import { TraceLine } from "./TraceLine";

function markOf(decision: Decision, stage: Stage): LozengeKind {
  if (decision.left_at === stage) return decision.verdict;
  if (stage === "release") return decision.verdict;
  const against = decision.trace.some((note) => note.stage === stage && note.against);
  return against ? "hold" : "publish";
}

function facts(decision: Decision, stage: Stage, notes: readonly Note[]): string {
  if (stage === "sift") {
    const failed = notes.filter((note) => note.against).length;
    return notes.length ? `${notes.length - failed} of ${plural(notes.length, "rule")} passed` : "no rules";
  }
  if (decision.left_at === stage) return "stopped here";
  return "";
}

interface TraceProps {
  blog: string;
  decision: Decision;
  onStep?: (note: Note) => void;
}

/** The findings of all stages, in order. */
export function Trace({ blog, decision, onStep }: TraceProps) {
  if (decision.trace.length === 0)
    return (
      <p className="mt-3 text-ink3">
        How it was decided is not kept any more: traces of items that became no post are thinned after a
        while.
      </p>
    );
  const reached = STAGES.filter(
    (stage) => decision.trace.some((note) => note.stage === stage) || stage === "sift",
  );
  const until = decision.left_at ? STAGES.indexOf(decision.left_at) : STAGES.length;
  return (
    <ol className="mt-3 border-l-2 border-line pl-4" aria-label="Trace">
      {reached
        .filter((stage) => STAGES.indexOf(stage) <= until)
        .map((stage) => {
          const notes = decision.trace.filter((note) => note.stage === stage);
          return (
            <li key={stage} className="relative mb-2.5">
              <span className="absolute top-[3px] -left-[23px] rounded-full bg-sheet">
                <Lozenge kind={markOf(decision, stage)} />
              </span>
              <span className="font-semibold">{STAGE_NAMES[stage]}</span>{" "}
              <span className="text-ink3">{facts(decision, stage, notes)}</span>
              <ul className="space-y-1">
                {notes.map((note) => (
                  <TraceLine key={`${note.code}${note.rule}`} blog={blog} note={note} onStep={onStep} />
                ))}
              </ul>
            </li>
          );
        })}
    </ol>
  );
}
