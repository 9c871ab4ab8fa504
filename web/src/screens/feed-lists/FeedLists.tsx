import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { feedListsQuery } from "@/api/feed-lists";
import { Head } from "@/components/Head";
import { PagedSheet } from "@/components/PagedSheet";
import { PAGE } from "@/components/Paging";
import { desk } from "@/lib/blog-path";
import { listSummary } from "@/lib/feed-list";
import { moment } from "@/lib/format";
import { buttonLook } from "@/ui/Button";

/** The lists of feeds that were brought in. */
export default function FeedLists() {
  const { blog = "" } = useParams();
  const [offset, setOffset] = useState(0);
  const found = useQuery(feedListsQuery(blog, offset, PAGE));
  return (
    <>
      <Head
        title="Lists of feeds"
        facts={<span className="text-ink3">what was brought in at once, newest first</span>}
      >
        <Link className={buttonLook("plain")} to={desk.addSources(blog)}>
          Add feeds
        </Link>
      </Head>
      <PagedSheet
        label="Lists of feeds"
        what="lists of feeds"
        page={found}
        offset={offset}
        onOffset={setOffset}
        empty={{
          title: "No list yet",
          text: "“Add feeds” takes an OPML file, or many addresses at once. The report of each list stays here.",
        }}
      >
        {(row) => (
          <li key={row.id} className="border-t border-line2 px-4 py-3 first:border-0">
            <Link className="font-semibold hover:text-verd" to={desk.feedList(blog, row.id)}>
              {row.name}
            </Link>
            <p className="text-xs text-ink3">
              {moment(row.made_at)}
              {row.by && ` by ${row.by}`} · {row.under_way ? "under way · " : ""}
              {listSummary(row)}
            </p>
          </li>
        )}
      </PagedSheet>
    </>
  );
}
