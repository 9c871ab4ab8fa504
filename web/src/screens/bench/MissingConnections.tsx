import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { chosenSourcesQuery } from "@/api/sources";
import { desk } from "@/lib/blog-path";
import type { BenchState } from "./useBench";

/** Sources with an unusable connection, and the link to fix it, shown before a run. */
export function MissingConnections({ blog, bench }: { blog: string; bench: BenchState }) {
  const { sources, labels } = bench.document.gather;
  const chosen = useQuery(chosenSourcesQuery(blog, sources, labels)).data?.rows ?? [];
  const refused = chosen.filter(({ connection_trouble }) => connection_trouble);
  return refused.map(({ key, title, connection_trouble }) => (
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
