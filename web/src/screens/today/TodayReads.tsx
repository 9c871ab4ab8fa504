import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { readsQuery, USUAL_DAYS } from "@/api/reads";
import { desk } from "@/lib/blog-path";
import { count } from "@/lib/format";
import { Spark } from "@/ui/Spark";

const SHOWN = 5;

/** Which sources are read, so that a person sees which are worth their place. */
export function TodayReads({ blog }: { blog: string }) {
  const reads = useQuery(readsQuery(blog)).data;
  if (!reads?.total) return null;
  return (
    <section aria-label="Reads" className="mt-5">
      <h2 className="flex items-baseline gap-2 text-[15px]">
        Reads
        <span className="font-normal text-ink3 text-xs">
          {count(reads.total)} in {USUAL_DAYS} days
        </span>
        <Link className="ml-auto font-semibold text-verd text-xs" to={desk.reads(blog)}>
          All
        </Link>
      </h2>
      <div className="my-1.5">
        <Spark
          days={reads.days.map((day) => day.reads)}
          label={`Reads a day over ${USUAL_DAYS} days: ${reads.days.map((day) => day.reads).join(", ")}`}
        />
      </div>
      <ul>
        {reads.sources.slice(0, SHOWN).map((source) => (
          <li key={source.key} className="flex items-center gap-2 border-line2 border-t py-1.5">
            <Link className="min-w-0 flex-1 truncate hover:text-verd" to={desk.source(blog, source.key)}>
              {source.name}
            </Link>
            <span className="tabular-nums">{count(source.reads)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
