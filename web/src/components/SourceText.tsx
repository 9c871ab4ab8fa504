import type { ReactNode } from "react";
import type { Decision } from "@/api/proofs";
import { hits } from "@/lib/wording";

interface Span {
  start: number;
  end: number;
}

function marked(text: string, spans: readonly Span[]): ReactNode[] {
  const parts: ReactNode[] = [];
  let at = 0;
  for (const span of [...spans].sort((one, other) => one.start - other.start)) {
    if (span.start < at) continue;
    parts.push(text.slice(at, span.start), <mark key={span.start}>{text.slice(span.start, span.end)}</mark>);
    at = span.end;
  }
  return [...parts, text.slice(at)];
}

/** The text of the source, with the words that rules found marked. */
export function SourceText({ decision }: { decision: Decision }) {
  const found = decision.trace.flatMap(hits);
  const { item } = decision;
  const where = item.text ? "text" : "summary";
  return (
    <article className="space-y-2">
      <h2 className="text-base">
        {marked(
          item.title,
          found.filter((hit) => hit.in === "title"),
        )}
      </h2>
      <p className="whitespace-pre-line text-ink2">
        {marked(
          item.text || item.summary,
          found.filter((hit) => hit.in === where),
        )}
      </p>
      {item.link && (
        <a className="font-semibold text-verd" href={item.link} target="_blank" rel="noreferrer">
          Open the original
        </a>
      )}
    </article>
  );
}
