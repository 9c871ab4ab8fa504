import clsx from "clsx";
import { ArrowDown, ArrowUp } from "lucide-react";
import type { Post, PostList } from "@/api/posts";
import { useListFocus } from "@/ui/useListFocus";
import { COLUMNS, type Column } from "./columns";
import { PostRow } from "./PostRow";
import type { usePostMoves } from "./usePostMoves";
import type { PostSelection } from "./useSelection";

interface PostTableProps {
  blog: string;
  rows: readonly Post[];
  list: PostList;
  columns: ReadonlySet<string>;
  selection: PostSelection;
  moving: ReturnType<typeof usePostMoves>;
  reviewer: boolean;
  onSort: (sort: PostList["sort"]) => void;
}

function ariaSort(column: Column, sort: PostList["sort"]): "ascending" | "descending" | "none" {
  if (!column.sorts?.includes(sort)) return "none";
  return sort === "newest" || sort.startsWith("-") ? "descending" : "ascending";
}

/** Posts as a table, with the columns that the person wants. */
export function PostTable({
  blog,
  rows,
  list,
  columns,
  selection,
  moving,
  reviewer,
  onSort,
}: PostTableProps) {
  const keepsFocus = useListFocus<HTMLTableSectionElement>();
  const shown = COLUMNS.filter(({ key }) => columns.has(key));
  return (
    <table className="w-full table-fixed">
      <thead>
        <tr className="text-left text-xs text-ink3">
          {reviewer && (
            <th className="w-9 py-2 pl-4">
              <input
                type="checkbox"
                aria-label="Select all on this page"
                className="accent-verd"
                checked={selection.wholePage}
                onChange={selection.togglePage}
              />
            </th>
          )}
          {shown.map((column) => (
            <th
              key={column.key}
              aria-sort={ariaSort(column, list.sort)}
              className={clsx("px-2 py-2 font-medium", column.width)}
            >
              <Head column={column} sort={list.sort} onSort={onSort} />
            </th>
          ))}
          <th className="w-[160px] py-2 pr-4">
            <span className="sr-only">Actions</span>
          </th>
        </tr>
      </thead>
      <tbody aria-label="Posts" {...keepsFocus}>
        {rows.map((post) => (
          <PostRow
            key={post.id}
            blog={blog}
            post={post}
            columns={shown}
            selected={selection.has(post.id)}
            onSelect={reviewer ? (range) => selection.toggle(post.id, range) : null}
            moving={moving}
          />
        ))}
      </tbody>
    </table>
  );
}

interface HeadProps {
  column: Column;
  sort: PostList["sort"];
  onSort: (sort: PostList["sort"]) => void;
}

function Head({ column, sort, onSort }: HeadProps) {
  if (!column.sorts) return <span className="sr-only">{column.head}</span>;
  const [first, second] = column.sorts;
  const down = ariaSort(column, sort) === "descending";
  return (
    <button
      type="button"
      className="inline-flex min-h-6 items-center gap-1 hover:text-ink"
      onClick={() => onSort(sort === first ? second : first)}
    >
      {column.head}
      {column.sorts.includes(sort) &&
        (down ? <ArrowDown size={11} aria-hidden="true" /> : <ArrowUp size={11} aria-hidden="true" />)}
    </button>
  );
}
