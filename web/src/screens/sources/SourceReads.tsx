import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { readsQuery, USUAL_DAYS } from "@/api/reads";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";

/** How often posts of a source were read, of all reads of the blog. */
export function SourceReads({ blog, source }: { blog: string; source: string }) {
  const reads = useQuery(readsQuery(blog)).data;
  if (!reads?.total) return null;
  const own = reads.sources.find(({ key }) => key === source);
  const part = own ? Math.round((100 * own.reads) / reads.total) : 0;
  return (
    <p className="mb-4 text-ink2">
      {own
        ? `Its posts had ${plural(own.reads, "read")} in ${USUAL_DAYS} days: ${part}% of all, by ${plural(own.posts, "post")}.`
        : `None of its posts was read in ${USUAL_DAYS} days.`}{" "}
      <Link className="font-semibold text-verd" to={desk.reads(blog)}>
        All reads
      </Link>
    </p>
  );
}
