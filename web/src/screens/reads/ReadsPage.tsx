import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { type Reads, readsQuery } from "@/api/reads";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { desk } from "@/lib/blog-path";
import { count, plural } from "@/lib/format";
import { Scroll } from "@/ui/Scroll";
import { Segmented } from "@/ui/Segmented";
import { type ReadLine, ReadLines } from "./ReadLines";
import { ReadsByDay } from "./ReadsByDay";

const SPANS = [
  { value: "7", label: "7 days" },
  { value: "30", label: "30 days" },
  { value: "90", label: "90 days" },
  { value: "365", label: "a year" },
] as const;

function lineOf(line: Reads["sources"][number], to: string): ReadLine {
  const each = line.reads / Math.max(1, line.posts);
  const average = each < 10 ? each.toFixed(1) : count(Math.round(each));
  const read = `${plural(line.posts, "post")} read, ${average} reads each`;
  return {
    ...line,
    to: line.archived ? null : to,
    under: line.archived ? `archived · ${read}` : read,
  };
}

/** How often the posts of a blog were read: by day, post, source and campaign. */
export default function ReadsPage() {
  const { blog = "" } = useParams();
  const [span, setSpan] = useState<(typeof SPANS)[number]["value"]>("30");
  const found = useQuery(readsQuery(blog, Number(span)));
  const reads = found.data;
  return (
    <>
      <Head title="Reads" facts={reads && <span className="text-ink3">{plural(reads.total, "read")}</span>}>
        <Segmented label="Span" options={SPANS} value={span} onChange={setSpan} />
      </Head>
      <Scroll label="Reads" className="min-h-0 flex-1 p-5">
        <div className="mx-auto max-w-5xl space-y-4">
          {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
          {found.isPending && <Loading what="the reads" rows={6} />}
          {reads && reads.total === 0 && (
            <Empty
              title="Nothing was read"
              text="In these days no reader has opened a post. Reads are counted without a cookie and without an address; programs and people of the desk are left out."
            />
          )}
          {reads && reads.total > 0 && (
            <>
              <ReadsByDay days={reads.days} />
              <div className="grid items-start gap-4 lg:grid-cols-2">
                <ReadLines
                  title="Posts"
                  total={reads.total}
                  rows={reads.posts.map((post) => ({
                    key: String(post.id),
                    name: post.title,
                    to: desk.post(blog, post.id),
                    under: post.source || "written here",
                    reads: post.reads,
                  }))}
                />
                <div className="space-y-4">
                  <ReadLines
                    title="Sources"
                    total={reads.total}
                    rows={reads.sources.map((line) => lineOf(line, desk.source(blog, line.key)))}
                  />
                  <ReadLines
                    title="Campaigns"
                    total={reads.total}
                    rows={reads.campaigns.map((line) => lineOf(line, desk.bench(blog, line.key)))}
                  />
                </div>
              </div>
              <p className="text-ink3 text-xs">
                Counted without a cookie and without an address. Programs, people of the desk and pages that a
                browser loads ahead are left out. Kept for 400 days.
              </p>
            </>
          )}
        </div>
      </Scroll>
    </>
  );
}
