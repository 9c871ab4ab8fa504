import { Link } from "react-router";
import type { Run } from "@/api/runs";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";
import { Lozenge } from "@/ui/Lozenge";

type Reading = Run["readings"][number];

function outcome(reading: Reading): string {
  if (reading.error) return reading.detail;
  if (reading.not_modified) return "nothing has changed since the last read";
  return `${plural(reading.found, "item")} in the feed, ${reading.fresh} new`;
}

/** The readings of a run, the first place to look when nothing arrives. */
export function RunSources({ run, blog }: { run: Run; blog: string }) {
  if (!run.readings.length && !run.sources_left) return null;
  return (
    <section aria-label="Sources read" className="sheet-card px-4 py-2">
      <ul>
        {run.readings.map((reading) => (
          <li
            key={reading.key}
            className="flex items-center gap-2.5 border-t border-line2 py-1.5 first:border-0"
          >
            <Lozenge kind={reading.error ? "refused" : "publish"} label={reading.error ? "failed" : "read"} />
            <Link className="font-medium hover:text-verd" to={desk.source(blog, reading.key)}>
              {reading.title}
            </Link>
            <span className={reading.error ? "text-madder" : "text-ink3"}>{outcome(reading)}</span>
          </li>
        ))}
      </ul>
      {run.sources_left > 0 && (
        <p className="py-1.5 text-ink3">
          {plural(run.sources_left, "source was", "sources were")} not read: read a moment ago, asked to be
          left alone, or gone. What was captured from {run.sources_left === 1 ? "it" : "them"} counts all the
          same.
        </p>
      )}
    </section>
  );
}
