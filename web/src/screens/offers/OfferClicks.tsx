import { useQuery } from "@tanstack/react-query";
import { Download } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { type ClicksBy, clicksQuery } from "@/api/offers";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { desk } from "@/lib/blog-path";
import { count, plural } from "@/lib/format";
import { LibraryTabs } from "@/screens/library/LibraryTabs";
import { Scroll } from "@/ui/Scroll";
import { Segmented } from "@/ui/Segmented";
import { Spark } from "@/ui/Spark";
import { OfferTabs } from "./OfferTabs";
import { BLOCK_WORDS } from "./words";

const BY = [
  { value: "post", label: "by post" },
  { value: "product", label: "by product" },
  { value: "block", label: "by place on the page" },
] as const;
const SPANS = [
  { value: "7", label: "7 days" },
  { value: "30", label: "30 days" },
  { value: "365", label: "a year" },
] as const;

/** How often readers followed the links of offers: by day, post, product and place on the page. */
export default function OfferClicks() {
  const { blog = "" } = useParams();
  const [by, setBy] = useState<ClicksBy>("post");
  const [span, setSpan] = useState<"7" | "30" | "365">("30");
  const days = Number(span);
  const found = useQuery(clicksQuery(blog, days, by));
  const rows = found.data?.rows ?? [];
  const total = found.data?.total ?? 0;
  return (
    <>
      <Head title="Followed links" facts={<LibraryTabs />}>
        <a
          className="inline-flex items-center gap-1 text-ink2 hover:text-verd"
          href={`/api/blogs/${blog}/offer-clicks.csv?days=${days}`}
          download
        >
          <Download size={13} aria-hidden="true" /> CSV
        </a>
      </Head>
      <div className="flex shrink-0 flex-wrap items-center gap-3 border-line border-b bg-sheet px-4 py-2">
        <OfferTabs />
        <Segmented label="Counted" options={BY} value={by as (typeof BY)[number]["value"]} onChange={setBy} />
        <Segmented label="Span" options={SPANS} value={span} onChange={setSpan} />
      </div>
      <Scroll label="Followed links" className="min-h-0 flex-1 p-5">
        <div className="mx-auto max-w-3xl space-y-4">
          {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
          {found.isPending && <Loading what="the followed links" />}
          {found.data && total === 0 && (
            <Empty
              title={found.data.counts_links ? "No link was followed" : "Links are not counted"}
              text={
                found.data.counts_links
                  ? "In these days no reader has followed the link of an offer."
                  : "An owner can let the blog count them, under “Shops and partner links”. No cookie is set, and nothing of the reader is kept."
              }
            />
          )}
          {total > 0 && (
            <>
              <p className="flex items-end gap-4">
                <span className="font-semibold text-base">{plural(total, "link")} followed</span>
                {days <= 30 && (
                  <Spark
                    days={(found.data?.days ?? []).map(({ clicks }) => clicks)}
                    label={`Followed links in ${days} days`}
                  />
                )}
              </p>
              <ol aria-label="Followed links" className="sheet-card">
                {rows.map((row) => (
                  <li
                    key={row.key}
                    className="flex items-center gap-4 border-line2 border-t px-5 py-2 first:border-0"
                  >
                    <span className="min-w-0 flex-1 truncate">
                      {by === "post" && <Link to={desk.post(blog, Number(row.key))}>{row.name}</Link>}
                      {by === "product" && <Link to={desk.offer(blog, Number(row.key))}>{row.name}</Link>}
                      {by === "block" && (BLOCK_WORDS[row.key] ?? row.name)}
                    </span>
                    <span className="tabular-nums">{count(row.clicks)}</span>
                  </li>
                ))}
              </ol>
            </>
          )}
        </div>
      </Scroll>
    </>
  );
}
