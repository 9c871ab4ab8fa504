import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { FromWhere } from "@/components/FromWhere";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { Preview } from "@/components/Preview";
import { SearchBox } from "@/components/SearchBox";
import { plural } from "@/lib/format";
import { Scroll } from "@/ui/Scroll";
import { WordSelect } from "@/ui/WordSelect";
import { HeldList } from "./HeldList";
import { KeysDialog } from "./KeysDialog";
import { ReviewTabs } from "./ReviewTabs";
import { type ReviewFilter, useReview } from "./useReview";
import { useReviewKeys } from "./useReviewKeys";
import { WhyHeld } from "./WhyHeld";

const SORTS = [
  { value: "oldest", label: "oldest first" },
  { value: "newest", label: "newest first" },
] as const;

function useFilter(): [ReviewFilter, (next: Partial<ReviewFilter>) => void] {
  const [params, setParams] = useSearchParams();
  const filter: ReviewFilter = {
    campaign: params.get("campaign") ?? "",
    source: params.get("source") ?? "",
    search: params.get("search") ?? "",
    sort: params.get("sort") === "newest" ? "newest" : "oldest",
    offset: Number(params.get("offset") ?? 0),
  };
  function set(next: Partial<ReviewFilter>) {
    const kept = Object.entries({ ...filter, offset: 0, ...next }).filter(([, value]) => value);
    setParams(Object.fromEntries(kept.map(([key, value]) => [key, String(value)])), { replace: true });
  }
  return [filter, set];
}

/** The desk for held posts: the list, the post as the blog will show it, and why it is held; single keys decide. */
export default function Review() {
  const { blog = "" } = useParams();
  const [filter, setFilter] = useFilter();
  const [helps, setHelps] = useState(false);
  const reviewer = useMay()("reviewer");
  const review = useReview(blog, filter);
  useReviewKeys(review, reviewer, () => setHelps(true));
  const { posts, post, preview, marked } = review;
  const narrowed = Boolean(filter.search || filter.campaign || filter.source);
  return (
    <>
      <Head title="Held posts" facts={<ReviewTabs />}>
        <SearchBox label="Find a post" value={filter.search} onChange={(search) => setFilter({ search })} />
      </Head>
      <div className="flex shrink-0 flex-wrap items-center gap-3 border-b border-line bg-sheet px-4 py-2 text-ink3">
        <p>
          <span aria-live="polite">
            {plural(review.total, "post")} held
            {marked.size > 0 && `, ${marked.size} marked`}
          </span>
          , <FromWhere blog={blog} campaign={filter.campaign} source={filter.source} onChange={setFilter} />,{" "}
          <WordSelect
            label="Order"
            value={filter.sort}
            options={SORTS}
            onChange={(sort) => setFilter({ sort })}
          />
        </p>
        <button
          type="button"
          className="ml-auto min-h-6 text-xs hover:text-verd"
          onClick={() => setHelps(true)}
        >
          <kbd>J</kbd> <kbd>K</kbd> move, <kbd>P</kbd> publish, <kbd>X</kbd> refuse, <kbd>?</kbd> all keys
        </button>
      </div>
      {posts.error && <ErrorNote error={posts.error} onRetry={posts.refetch} />}
      {posts.isPending && <Loading what="held posts" />}
      {posts.data && !post && (
        <Empty
          title={narrowed ? "No post found" : "Nothing to review"}
          text={
            narrowed
              ? "Change the filters above."
              : "Posts come here when a rule or a source holds them for a person."
          }
        />
      )}
      {post && (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] grid-rows-[200px_minmax(0,1fr)_minmax(0,1fr)] lg:grid-cols-[320px_minmax(0,1fr)_340px] lg:grid-rows-[minmax(0,1fr)]">
          <Scroll label="Held posts" className="min-h-0 border-r border-line bg-sheet">
            <HeldList review={review} />
            {review.pages && (
              <Paging
                offset={filter.offset}
                size={PAGE}
                total={posts.data?.total ?? 0}
                onChange={(offset) => setFilter({ offset })}
              />
            )}
          </Scroll>
          <div className="min-h-0 bg-sunk p-4">
            {preview.error && <ErrorNote error={preview.error} onRetry={preview.refetch} />}
            {preview.isPending && <Loading what="the post" />}
            {preview.data && <Preview html={preview.data.html} title={post.title} />}
          </div>
          <WhyHeld blog={blog} review={review} post={post} reviewer={reviewer} />
        </div>
      )}
      {helps && <KeysDialog onClose={() => setHelps(false)} />}
    </>
  );
}
