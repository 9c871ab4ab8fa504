import { useQuery } from "@tanstack/react-query";
import { Download, History } from "lucide-react";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { filterOf, type PostState, postsQuery } from "@/api/posts";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging, SEARCHED } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { desk } from "@/lib/blog-path";
import { count } from "@/lib/format";
import { STATE_WORDS } from "@/lib/wording";
import { buttonLook } from "@/ui/Button";
import { Scroll } from "@/ui/Scroll";
import { Segmented } from "@/ui/Segmented";
import { BulkBar } from "./BulkBar";
import { BulkProgress } from "./BulkProgress";
import { ChangesDialog } from "./ChangesDialog";
import { ColumnMenu } from "./ColumnMenu";
import { chosenColumns, keepColumns } from "./columns";
import { EmptyBin } from "./EmptyBin";
import { NarrowBar } from "./NarrowBar";
import { PostTable } from "./PostTable";
import { useBulk } from "./useBulk";
import { listOf, queryOf, usePostList } from "./usePostList";
import { usePostMoves } from "./usePostMoves";
import { useSelection } from "./useSelection";
import { ViewsMenu } from "./ViewsMenu";

const ANY = "-any-";
const STATES = ["published", "scheduled", "held", "draft", "refused"] as const;

/** The filter of the list as an address query. */
function csvAddress(blog: string, list: ReturnType<typeof listOf>): string {
  const query = new URLSearchParams(
    Object.entries(filterOf(list)).map(([name, value]) => [name, String(value)]),
  );
  query.set("sort", list.sort);
  return `/api/blogs/${blog}/posts.csv?${query}`;
}

export default function Posts() {
  const { blog = "" } = useParams();
  const may = useMay();
  const [, setParams] = useSearchParams();
  const [list, setList] = usePostList();
  const posts = useQuery(postsQuery(blog, list));
  const moving = usePostMoves(blog);
  const [columns, setColumns] = useState(chosenColumns);
  const [recent, setRecent] = useState(false);
  const rows = posts.data?.rows ?? [];
  const total = posts.data?.total ?? 0;
  const { offset, ...unpaged } = list;
  const selection = useSelection(rows, JSON.stringify(unpaged));
  const bulk = useBulk(blog, selection.clear);
  const states = posts.data?.states;
  // Very long search results are not counted.
  const counted = (word: string, number: number) => (states ? `${word} ${count(number)}` : word);
  const all = STATES.reduce((sum, state) => sum + (states?.[state] ?? 0), 0);
  const query = queryOf({ ...list, offset: 0 });
  return (
    <>
      <Head title="Posts">
        <SearchBox label="Find a post" value={list.search} onChange={(search) => setList({ search })} />
        <Link className={buttonLook("plain")} to={desk.reads(blog)}>
          Reads
        </Link>
        {may("editor") && (
          <Link className={buttonLook("primary")} to={desk.newPost(blog)}>
            Write a post
          </Link>
        )}
      </Head>
      <div className="shrink-0 space-y-1 border-b border-line bg-sheet px-4 py-2">
        <div className="flex flex-wrap items-center gap-2">
          <div className="max-w-full overflow-x-auto">
            <Segmented<PostState | typeof ANY>
              label="State"
              value={list.state || ANY}
              onChange={(state) => setList({ state: state === ANY ? "" : state })}
              options={[
                { value: ANY, label: counted("All", all) },
                ...STATES.map((state) => ({
                  value: state,
                  label: counted(STATE_WORDS[state], states?.[state] ?? 0),
                })),
                { value: "binned", label: counted("Bin", states?.binned ?? 0) },
              ]}
            />
          </div>
          <span className="ml-auto flex flex-wrap items-center">
            {list.state === "binned" && may("editor") && (
              <EmptyBin blog={blog} number={states?.binned ?? 0} />
            )}
            <button type="button" className={buttonLook("quiet", true)} onClick={() => setRecent(true)}>
              <History size={13} aria-hidden="true" /> Last changes
            </button>
            <ViewsMenu
              blog={blog}
              query={query}
              reviewer={may("reviewer")}
              onOpen={(kept) => setParams(queryOf(listOf(new URLSearchParams(kept))), { replace: true })}
            />
            <ColumnMenu
              chosen={columns}
              onChange={(next) => {
                setColumns(next);
                keepColumns(next);
              }}
            />
            <a className={buttonLook("quiet", true)} href={csvAddress(blog, list)} download>
              <Download size={13} aria-hidden="true" /> CSV
            </a>
          </span>
        </div>
        <NarrowBar blog={blog} list={list} onChange={setList} />
      </div>
      {bulk.change && <BulkProgress change={bulk.change} onStop={bulk.stop} />}
      {!bulk.change && (selection.number > 0 || selection.all) && (
        <BulkBar
          blog={blog}
          list={list}
          total={total}
          selection={selection}
          bulk={bulk}
          editor={may("editor")}
        />
      )}
      <Scroll label="Posts" className="min-h-0 flex-1 p-5">
        {posts.error && <ErrorNote error={posts.error} onRetry={posts.refetch} />}
        {posts.isPending && <Loading what="posts" />}
        {posts.data?.total === 0 && (
          <Empty
            title={query ? "No post found" : "No post yet"}
            text={query ? "Change the filters above." : "Posts come here when a campaign runs."}
          />
        )}
        {total > 0 && (
          <div className="sheet-card relative min-w-[820px]">
            <PostTable
              blog={blog}
              rows={rows}
              list={list}
              columns={columns}
              selection={selection}
              moving={moving}
              reviewer={may("reviewer")}
              onSort={(sort) => setList({ sort })}
            />
            <Paging
              offset={offset}
              size={PAGE}
              total={total}
              endsAt={list.search ? SEARCHED : undefined}
              onChange={(next) => setList({ offset: next })}
            />
          </div>
        )}
      </Scroll>
      {recent && <ChangesDialog blog={blog} bulk={bulk} onClose={() => setRecent(false)} />}
    </>
  );
}
