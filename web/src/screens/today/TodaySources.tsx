import { Link } from "react-router";
import type { Today } from "@/api/today";
import { desk } from "@/lib/blog-path";
import { HEALTH } from "@/lib/health";
import { Lozenge } from "@/ui/Lozenge";
import { Spark } from "@/ui/Spark";

/** The sources with their items by day, those with problems first. */
export function TodaySources({ blog, sources }: { blog: string; sources: Today["sources"] }) {
  if (!sources.length) return null;
  return (
    <section aria-label="Sources" className="mt-5">
      <h2 className="text-[15px]">Sources</h2>
      <ul className="mt-1">
        {sources.map((source) => (
          <li key={source.key} className="flex items-center gap-2 border-t border-line2 py-1.5">
            <Lozenge kind={HEALTH[source.health].mark} label={HEALTH[source.health].name} />
            <Link className="min-w-0 flex-1 truncate hover:text-verd" to={desk.source(blog, source.key)}>
              {source.title}
            </Link>
            <Spark days={source.days} label={`Items a day over two weeks: ${source.days.join(", ")}`} />
          </li>
        ))}
      </ul>
    </section>
  );
}
