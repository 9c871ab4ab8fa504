import clsx from "clsx";
import { Link } from "react-router";
import type { Note } from "@/api/proofs";
import { desk } from "@/lib/blog-path";
import { comparedPost, hits, list, type TermHit, wordsOf } from "@/lib/wording";

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

interface TraceLineProps {
  blog: string;
  note: Note;
  /** Opens the effect of a Shape step, where there is one. */
  onStep?: ((note: Note) => void) | undefined;
}

/** One finding of a rule or step, with a link to the compared post. */
export function TraceLine({ blog, note, onStep }: TraceLineProps) {
  const words = wordsOf(note);
  const post = comparedPost(note);
  const shown = hits(note).slice(0, 3);
  const passages = list(note.data, "passages");
  return (
    <li>
      <span className={clsx("font-medium", toneOf(note))}>{words.strong}</span>{" "}
      <span className="text-ink2">{words.rest}</span>
      {note.rule && <span className="text-ink3"> · {note.rule_title || note.rule}</span>}
      {onStep && note.stage === "shape" && note.rule && note.code !== "step.nothing" && (
        <>
          {" · "}
          <button type="button" className="text-verd underline" onClick={() => onStep(note)}>
            before and after
          </button>
        </>
      )}
      {post !== null && (
        <>
          {" · "}
          <Link className="text-verd underline" to={desk.post(blog, post)} target="_blank">
            see it
          </Link>
        </>
      )}
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
