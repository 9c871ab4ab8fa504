import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";
import { type CommentState, commentsQuery } from "@/api/comments";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging, SEARCHED } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { count } from "@/lib/format";
import { ReviewTabs } from "@/screens/review/ReviewTabs";
import { Segmented } from "@/ui/Segmented";
import { useListFocus } from "@/ui/useListFocus";
import { CommentRow } from "./CommentRow";
import { useCommentMoves } from "./useCommentMoves";
import { COMMENT_WORDS } from "./words";

const ANY = "-any-";
const STATES = ["waiting", "shown", "removed"] as const;

/** Comments of readers, shown only after approval. */
export default function Comments() {
  const { blog = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const filter = {
    state: (params.get("state") ?? "") as CommentState | "",
    search: params.get("search") ?? "",
    offset: Number(params.get("offset") ?? 0),
  };
  const comments = useQuery(commentsQuery(blog, filter));
  const moving = useCommentMoves(blog);
  const keepsFocus = useListFocus<HTMLUListElement>();
  const states = comments.data?.states ?? {};
  const all = Object.values(states).reduce((sum, number) => sum + number, 0);

  function set(next: Partial<typeof filter>) {
    const merged = Object.entries({ ...filter, offset: 0, ...next }).filter(([, value]) => value);
    setParams(Object.fromEntries(merged.map(([key, value]) => [key, String(value)])), { replace: true });
  }

  return (
    <>
      <Head title="Comments" facts={<ReviewTabs />}>
        <SearchBox label="Find a comment" value={filter.search} onChange={(search) => set({ search })} />
      </Head>
      <div className="flex shrink-0 items-center gap-3 border-b border-line bg-sheet px-4 py-2">
        <Segmented<CommentState | typeof ANY>
          label="State"
          value={filter.state || ANY}
          onChange={(state) => set({ state: state === ANY ? "" : state })}
          options={[
            { value: ANY, label: `All ${count(all)}` },
            ...STATES.map((state) => ({
              value: state,
              label: `${COMMENT_WORDS[state]} ${count(states[state] ?? 0)}`,
            })),
          ]}
        />
      </div>
      <div className="min-h-0 flex-1 overflow-auto p-5">
        {comments.error && <ErrorNote error={comments.error} onRetry={comments.refetch} />}
        {comments.isPending && <Loading what="comments" />}
        {comments.data?.total === 0 && (
          <Empty
            title={all ? "No comment found" : "No comment yet"}
            text={
              all
                ? "Change the filters above."
                : "Readers can comment on the posts whose campaign allows it: see “Post settings” at the stage Place of its bench."
            }
          />
        )}
        {comments.data && comments.data.total > 0 && (
          <div className="sheet-card">
            <ul aria-label="Comments" {...keepsFocus}>
              {comments.data.rows.map((comment) => (
                <CommentRow key={comment.id} blog={blog} comment={comment} moving={moving} />
              ))}
            </ul>
            <Paging
              order="newest first"
              offset={filter.offset}
              size={PAGE}
              total={comments.data.total}
              endsAt={filter.search ? SEARCHED : undefined}
              onChange={(offset) => set({ offset })}
            />
          </div>
        )}
      </div>
    </>
  );
}
