import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";
import { type Post, type PostFilter, type PostState, postsQuery } from "@/api/posts";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { FromWhere } from "@/components/FromWhere";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging, SEARCHED } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { StateMark } from "@/components/StateMark";
import { desk } from "@/lib/blog-path";
import { count, moment } from "@/lib/format";
import { STATE_WORDS } from "@/lib/wording";
import { Segmented } from "@/ui/Segmented";
import { useListFocus } from "@/ui/useListFocus";
import { WordSelect } from "@/ui/WordSelect";
import { PostActions } from "./PostActions";
import { PostTraits } from "./PostTraits";
import { usePostMoves } from "./usePostMoves";

const ANY = "-any-";
const SORTS = [
  { value: "newest", label: "newest first" },
  { value: "oldest", label: "oldest first" },
  { value: "title", label: "by title" },
] as const;

/** The filter lives in the address, so that a list can be shared and gone back to. */
function useFilter(): [PostFilter, (next: Partial<PostFilter>) => void] {
  const [params, setParams] = useSearchParams();
  const filter: PostFilter = {
    state: (params.get("state") ?? "") as PostFilter["state"],
    campaign: params.get("campaign") ?? "",
    source: params.get("source") ?? "",
    search: params.get("search") ?? "",
    sort: (params.get("sort") ?? "newest") as PostFilter["sort"],
    offset: Number(params.get("offset") ?? 0),
  };
  function set(next: Partial<PostFilter>) {
    const merged = { ...filter, offset: 0, ...next };
    const kept = Object.entries(merged).filter(
      ([key, value]) => value && !(key === "sort" && value === "newest"),
    );
    setParams(Object.fromEntries(kept.map(([key, value]) => [key, String(value)])), { replace: true });
  }
  return [filter, set];
}

interface RowProps {
  blog: string;
  post: Post;
  moving: ReturnType<typeof usePostMoves>;
}

function Row({ blog, post, moving }: RowProps) {
  return (
    <li className="flex items-center gap-3 border-t border-line2 px-4 py-2 first:border-0 hover:bg-chalk">
      {post.picture ? (
        <img
          src={post.picture}
          alt=""
          loading="lazy"
          className="h-[38px] w-[52px] shrink-0 rounded-[5px] bg-sunk object-cover"
        />
      ) : (
        <span className="h-[38px] w-[52px] shrink-0 rounded-[5px] bg-sunk" />
      )}
      <div className="min-w-0 flex-1">
        <Link className="block truncate font-medium hover:text-verd" to={desk.post(blog, post.id)}>
          {post.title}
        </Link>
        <p className="truncate text-[11.5px] text-ink3">
          {post.categories.length > 0 && `${post.categories.join(", ")} · `}
          <Link className="hover:text-verd" to={desk.bench(blog, post.campaign_slug)}>
            {post.campaign}
          </Link>{" "}
          · {post.source} · {moment(post.date)}
        </p>
      </div>
      <span className="flex w-32 shrink-0 flex-wrap items-center gap-x-2">
        <StateMark state={post.state} />
        <PostTraits post={post} />
      </span>
      <span className="flex w-[190px] shrink-0 justify-end">
        <PostActions blog={blog} post={post} moving={moving} />
      </span>
    </li>
  );
}

export default function Posts() {
  const { blog = "" } = useParams();
  const [filter, setFilter] = useFilter();
  const posts = useQuery(postsQuery(blog, filter));
  const moving = usePostMoves(blog);
  const keepsFocus = useListFocus<HTMLUListElement>();
  const states = posts.data?.states;
  // What a search finds is not counted where it is very much.
  const counted = (word: string, number: number) => (states ? `${word} ${count(number)}` : word);
  const all = Object.values(states ?? {}).reduce((sum, number) => sum + number, 0);
  const narrowed = Boolean(filter.search || filter.campaign || filter.source || filter.state);
  return (
    <>
      <Head title="Posts">
        <SearchBox label="Find a post" value={filter.search} onChange={(search) => setFilter({ search })} />
      </Head>
      <div className="flex shrink-0 flex-wrap items-center gap-3 border-b border-line bg-sheet px-4 py-2">
        <Segmented<PostState | typeof ANY>
          label="State"
          value={filter.state || ANY}
          onChange={(state) => setFilter({ state: state === ANY ? "" : state })}
          options={[
            { value: ANY, label: counted("All", all) },
            ...(["published", "scheduled", "held", "draft", "refused"] as const).map((state) => ({
              value: state,
              label: counted(STATE_WORDS[state], states?.[state] ?? 0),
            })),
          ]}
        />
        <span className="text-ink3">
          <FromWhere blog={blog} campaign={filter.campaign} source={filter.source} onChange={setFilter} />,{" "}
          <WordSelect
            label="Order"
            value={filter.sort}
            options={SORTS}
            onChange={(sort) => setFilter({ sort })}
          />
        </span>
      </div>
      <div className="min-h-0 flex-1 overflow-auto p-5">
        {posts.error && <ErrorNote error={posts.error} onRetry={posts.refetch} />}
        {posts.isPending && <Loading what="posts" />}
        {posts.data?.total === 0 && (
          <Empty
            title={narrowed ? "No post found" : "No post yet"}
            text={narrowed ? "Change the filters above." : "Posts come here when a campaign runs."}
          />
        )}
        {posts.data && posts.data.total > 0 && (
          <div className="sheet-card">
            <ul aria-label="Posts" {...keepsFocus}>
              {posts.data.rows.map((post) => (
                <Row key={post.id} blog={blog} post={post} moving={moving} />
              ))}
            </ul>
            <Paging
              offset={filter.offset}
              size={PAGE}
              total={posts.data.total}
              endsAt={filter.search ? SEARCHED : undefined}
              onChange={(offset) => setFilter({ offset })}
            />
          </div>
        )}
      </div>
    </>
  );
}
