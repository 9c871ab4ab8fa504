import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { SiftRule } from "@/api/campaigns";
import { heldReasonsQuery } from "@/api/review";
import { sessionQuery } from "@/api/session";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { FromWhere } from "@/components/FromWhere";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";
import { reasonName } from "@/lib/wording";
import { ChangesDialog } from "@/screens/posts/ChangesDialog";
import { useBulk } from "@/screens/posts/useBulk";
import { Scroll } from "@/ui/Scroll";
import { useTell } from "@/ui/Toasts";
import { WordSelect } from "@/ui/WordSelect";
import { HeldList } from "./HeldList";
import { KeysDialog } from "./KeysDialog";
import { RefuseDialog } from "./RefuseDialog";
import { ReviewedText } from "./ReviewedText";
import { ReviewTabs } from "./ReviewTabs";
import { ScheduleDialog } from "./ScheduleDialog";
import { type Age, type ReviewFilter, useReview } from "./useReview";
import { type ReviewDoes, useReviewKeys } from "./useReviewKeys";
import { useTakeBackLast } from "./useTakeBackLast";
import { WhyHeld } from "./WhyHeld";

const ANY = "-any-";
const AGES = [
  { value: "any", label: "of any age" },
  { value: "day", label: "of the last day" },
  { value: "week", label: "of the last week" },
  { value: "older", label: "older than a week" },
] as const;
const SORTS = [
  { value: "oldest", label: "oldest first" },
  { value: "newest", label: "newest first" },
] as const;

function useFilter(): [ReviewFilter, (next: Partial<ReviewFilter>) => void] {
  const [params, setParams] = useSearchParams();
  const filter: ReviewFilter = {
    campaign: params.get("campaign") ?? "",
    source: params.get("source") ?? "",
    reason: params.get("reason") ?? "",
    age: (params.get("age") ?? "any") as Age,
    search: params.get("search") ?? "",
    sort: params.get("sort") === "newest" ? "newest" : "oldest",
    offset: Number(params.get("offset") ?? 0),
  };
  function set(next: Partial<ReviewFilter>) {
    const kept = Object.entries({ ...filter, offset: 0, ...next }).filter(
      ([, value]) => value && value !== "any",
    );
    setParams(Object.fromEntries(kept.map(([key, value]) => [key, String(value)])), { replace: true });
  }
  return [filter, set];
}

/** The desk for held posts: the list, the preview, the reasons, and keys to decide. */
export default function Review() {
  const { blog = "" } = useParams();
  const [filter, setFilter] = useFilter();
  const [asks, setAsks] = useState<"help" | "schedule" | "refuse" | "changes" | null>(null);
  const may = useMay();
  const reviewer = may("reviewer");
  const navigate = useNavigate();
  const tell = useTell();
  const person = useQuery(sessionQuery).data?.name ?? "";
  const reasons = useQuery(heldReasonsQuery(blog)).data ?? [];
  const review = useReview(blog, filter);
  const takingBack = useTakeBackLast(blog, person);
  const bulk = useBulk(blog, () => undefined);
  const does: ReviewDoes = {
    help: () => setAsks("help"),
    schedule: () => review.post && setAsks("schedule"),
    refuse: () => review.post && setAsks("refuse"),
    edit: () => review.post && navigate(desk.editPost(blog, review.post.id)),
    takeBack: () => takingBack.mutate(),
    changes: () => setAsks("changes"),
    refuseToViewer: () =>
      tell("Reviewers, editors and owners of the blog decide about posts. Ask one of them."),
  };
  useReviewKeys(review, reviewer, does);
  const close = () => setAsks(null);

  async function refuse(why: string, rule: SiftRule | null) {
    close();
    const slug = review.post?.campaign_slug ?? "";
    await review.decide("refused", { why });
    if (rule) navigate(`${desk.bench(blog, slug)}?${new URLSearchParams({ rule: JSON.stringify(rule) })}`);
  }

  const { posts, post, preview, marked } = review;
  const narrowed = Boolean(
    filter.search || filter.campaign || filter.source || filter.reason || filter.age !== "any",
  );
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
          , <FromWhere blog={blog} campaign={filter.campaign} source={filter.source} onChange={setFilter} />,
          because of{" "}
          <WordSelect
            label="Reason"
            value={filter.reason || ANY}
            options={[
              { value: ANY, label: "any reason" },
              ...reasons.map(({ code, posts: number }) => ({
                value: code,
                label: `${reasonName(code)} (${number})`,
              })),
            ]}
            onChange={(reason) => setFilter({ reason: reason === ANY ? "" : reason })}
          />
          ,{" "}
          <WordSelect label="Age" value={filter.age} options={AGES} onChange={(age) => setFilter({ age })} />,{" "}
          <WordSelect
            label="Order"
            value={filter.sort}
            options={SORTS}
            onChange={(sort) => setFilter({ sort })}
          />
        </p>
        <button type="button" className="ml-auto min-h-6 text-xs hover:text-verd" onClick={does.help}>
          <kbd>J</kbd> <kbd>K</kbd> move,{" "}
          {reviewer && (
            <>
              <kbd>P</kbd> publish, <kbd>X</kbd> refuse,{" "}
            </>
          )}
          <kbd>?</kbd> all keys
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
          <ReviewedText blog={blog} post={post} preview={preview} />
          <WhyHeld blog={blog} review={review} post={post} reviewer={reviewer} does={does} />
        </div>
      )}
      {asks === "help" && <KeysDialog reviewer={reviewer} onClose={close} />}
      {asks === "changes" && <ChangesDialog blog={blog} bulk={bulk} onClose={close} />}
      {asks === "schedule" && (
        <ScheduleDialog
          number={review.wanted.length}
          onClose={close}
          onChosen={(date) => {
            close();
            review.decide("scheduled", { date });
          }}
        />
      )}
      {asks === "refuse" && post && (
        <RefuseDialog
          post={post}
          number={review.wanted.length}
          editor={may("editor")}
          onClose={close}
          onRefuse={refuse}
        />
      )}
    </>
  );
}
