import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { sourcesQuery } from "@/api/sources";
import { MOST_NAMED } from "@/components/Paging";
import { desk } from "@/lib/blog-path";
import type { BenchState } from "./useBench";

/** Sources with an unusable connection, and the link to fix it, shown before a run. */
export function MissingConnections({ blog, bench }: { blog: string; bench: BenchState }) {
  const sources = useQuery(sourcesQuery(blog, "", "title", 0, MOST_NAMED)).data?.rows ?? [];
  const chosen = sources.filter(
    ({ key, connection_trouble }) => bench.document.gather.sources.includes(key) && connection_trouble,
  );
  return chosen.map(({ key, title, connection_trouble }) => (
    <p
      key={key}
      role="status"
      className="flex shrink-0 items-center gap-3 border-b border-madder/30 bg-madder-wash px-4 py-2 text-madder"
    >
      <span>
        “{title}” cannot be read. {connection_trouble}
      </span>
      <Link className="ml-auto font-semibold underline" to={desk.connections(blog)}>
        To the connections
      </Link>
    </p>
  ));
}
