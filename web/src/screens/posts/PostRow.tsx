import clsx from "clsx";
import { PenLine } from "lucide-react";
import { Link } from "react-router";
import type { Post } from "@/api/posts";
import { StateMark } from "@/components/StateMark";
import { desk } from "@/lib/blog-path";
import { count, moment } from "@/lib/format";
import { languageName } from "@/lib/languages";
import type { Column } from "./columns";
import { PostActions } from "./PostActions";
import { PostTraits } from "./PostTraits";
import type { usePostMoves } from "./usePostMoves";

interface PostRowProps {
  blog: string;
  post: Post;
  columns: readonly Column[];
  selected: boolean;
  onSelect: ((range: boolean) => void) | null;
  moving: ReturnType<typeof usePostMoves>;
}

function Cell({ blog, post, column }: { blog: string; post: Post; column: string }) {
  switch (column) {
    case "picture":
      return post.picture ? (
        <img
          src={post.picture}
          alt=""
          loading="lazy"
          className="h-[38px] w-[52px] rounded-[5px] bg-sunk object-cover"
        />
      ) : (
        <span className="block h-[38px] w-[52px] rounded-[5px] bg-sunk" />
      );
    case "title":
      return (
        <>
          <Link
            className="block truncate font-medium hover:text-verd"
            to={desk.post(blog, post.id)}
            title={post.title}
          >
            {post.title}
          </Link>
          <span className="flex items-center gap-1.5 text-[11.5px] text-ink3">
            {post.edited.length > 0 && (
              <span title={`Edited by hand: ${post.edited.join(", ").replaceAll("_", " ")}`}>
                <PenLine size={11} aria-hidden="true" />
                <span className="sr-only">edited by hand</span>
              </span>
            )}
            <PostTraits post={post} />
            {post.edition_of !== null && (
              <span className="shrink-0">edition in {languageName(post.language)}</span>
            )}
            {post.editions.length > 0 && (
              <span className="shrink-0" title={`Editions: ${post.editions.map(languageName).join(", ")}`}>
                + {post.editions.join(", ")}
              </span>
            )}
            <span className="truncate">
              {[post.byline, ...post.tags.slice(0, 3).map((tag) => `#${tag}`)].filter(Boolean).join(" · ")}
            </span>
          </span>
        </>
      );
    case "state":
      return <StateMark state={post.state} />;
    case "campaign":
      return post.campaign_slug ? (
        <Link className="block truncate hover:text-verd" to={desk.bench(blog, post.campaign_slug)}>
          {post.campaign}
        </Link>
      ) : (
        <span className="text-ink3">by hand</span>
      );
    case "source":
      return <span className="block truncate">{post.source}</span>;
    case "category":
      return <span className="block truncate">{post.categories.join(", ")}</span>;
    case "date":
      return <span className="whitespace-nowrap tabular-nums">{moment(post.date)}</span>;
    case "words":
      return <span className="tabular-nums">{count(post.words)}</span>;
    case "reads":
      return (
        <span className="tabular-nums" title="In the last 30 days">
          {post.reads ? count(post.reads) : ""}
        </span>
      );
    default:
      return <span className="tabular-nums">{post.comments ? count(post.comments) : ""}</span>;
  }
}

export function PostRow({ blog, post, columns, selected, onSelect, moving }: PostRowProps) {
  return (
    <tr className={clsx("border-t border-line2 text-[12.5px] hover:bg-chalk", selected && "bg-verd-wash")}>
      {onSelect && (
        <td className="py-2 pl-4">
          <input
            type="checkbox"
            aria-label={`Select ${post.title}`}
            className="accent-verd"
            checked={selected}
            onChange={(event) => onSelect((event.nativeEvent as MouseEvent).shiftKey)}
          />
        </td>
      )}
      {columns.map(({ key }) => (
        <td key={key} className="overflow-hidden px-2 py-2">
          <Cell blog={blog} post={post} column={key} />
        </td>
      ))}
      <td className="py-2 pr-4">
        <span className="flex justify-end">
          <PostActions blog={blog} post={post} moving={moving} compact />
        </span>
      </td>
    </tr>
  );
}
