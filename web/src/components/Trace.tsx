import clsx from "clsx";
import type { Decision, Note, Stage } from "@/api/proofs";
import { hits, list, STAGE_NAMES, STAGES, type TermHit, wordsOf } from "@/lib/wording";
import { Lozenge, type LozengeKind } from "@/ui/Lozenge";

function markOf(decision: Decision, stage: Stage): LozengeKind {
  if (decision.left_at === stage) return decision.verdict;
  if (stage === "release") return decision.verdict;
  const against = decision.trace.some((note) => note.stage === stage && note.against);
  return against ? "hold" : "publish";
}

function Hit({ hit }: { hit: TermHit }) {
  return (
    <p>
      {hit.start > hit.before.length ? "…" : ""}
      {hit.before}
      <mark>{hit.match}</mark>
      {hit.after}
      {hit.times > 1 && <span className="text-ink3"> · {hit.times} times</span>}
    </p>
  );
}

function toneOf(note: Note): string {
  if (!note.against) return "text-ink";
  if (note.stage === "match") return "text-indigo";
  return note.stage === "release" ? "text-ochre" : "text-madder";
}

function Line({ note }: { note: Note }) {
  const words = wordsOf(note);
  const shown = hits(note).slice(0, 3);
  const passages = list(note.data, "passages");
  return (
    <li>
      <span className={clsx("font-medium", toneOf(note))}>{words.strong}</span>{" "}
      <span className="text-ink2">{words.rest}</span>
      {note.rule && <span className="text-ink3"> · {note.rule}</span>}
      {passages.length > 0 && (
        <div className="mt-1 rounded-md border border-line2 bg-chalk px-2 py-1 font-mono text-[11.5px] text-ink2">
          {passages.map((passage) => (
            <p key={passage} className="line-clamp-3">
              <mark>{passage}</mark>
            </p>
          ))}
        </div>
      )}
      {shown.length > 0 && (
        <div className="mt-1 rounded-md border border-line2 bg-chalk px-2 py-1 font-mono text-[11.5px] text-ink2">
          {shown.map((hit) => (
            <Hit key={`${hit.in}${hit.start}`} hit={hit} />
          ))}
        </div>
      )}
    </li>
  );
}

function facts(decision: Decision, stage: Stage, notes: readonly Note[]): string {
  if (stage === "sift") {
    const failed = notes.filter((note) => note.against).length;
    return notes.length ? `passes ${notes.length - failed} of ${notes.length}` : "no rules";
  }
  if (decision.left_at === stage) return "left here";
  return "";
}

/** What each stage found in an item, in the order in which it went through them. */
export function Trace({ decision }: { decision: Decision }) {
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
                  <Line key={`${note.code}${note.rule}`} note={note} />
                ))}
              </ul>
            </li>
          );
        })}
    </ol>
  );
}
