import { Link } from "react-router";
import type { DecisionRow as Row } from "@/api/runs";
import { Reason } from "@/components/Reason";
import { desk, publicPost } from "@/lib/blog-path";
import { ago } from "@/lib/format";
import { VERDICT_WORDS } from "@/lib/wording";
import { Lozenge } from "@/ui/Lozenge";

interface RowProps {
  row: Row;
  blog: string;
  onOpen: () => void;
  /** Whether rows of its list can be picked, so that all have room for the box. */
  pickable?: boolean;
  /** Whether it is picked, where it can be. */
  picked?: boolean;
  onPick?: (on: boolean) => void;
}

/** An item with its outcome and reason, linked to its trace. */
export function DecisionRow({ row, blog, onOpen, pickable = false, picked, onPick }: RowProps) {
  return (
    <li className="flex items-center gap-2.5 border-t border-line2 px-4 py-1.5 hover:bg-chalk">
      {pickable && !onPick && <span className="w-[13px] shrink-0" />}
      {onPick && (
        <input
          className="size-[13px] shrink-0"
          type="checkbox"
          aria-label={`Pick ${row.title || "the item without a title"}`}
          checked={picked}
          onChange={({ target }) => onPick(target.checked)}
        />
      )}
      <Lozenge kind={row.verdict} label={VERDICT_WORDS[row.verdict]} />
      <button type="button" className="min-w-0 flex-1 text-left" onClick={onOpen}>
        <span className="block truncate font-medium">{row.title || "(no title)"}</span>
        <span className="block truncate text-[11.5px] text-ink3">
          {row.source} · {ago(row.dated)} · <Reason verdict={row.verdict} reason={row.reason} />
        </span>
      </button>
      {row.post !== null && !row.post_slug && (
        <Link
          className="inline-flex min-h-6 items-center text-xs font-semibold text-verd"
          to={desk.post(blog, row.post)}
        >
          Its post
        </Link>
      )}
      {row.post_slug && (
        <a
          className="inline-flex min-h-6 items-center text-xs font-semibold text-verd"
          href={publicPost(blog, row.post_slug)}
          target="_blank"
          rel="noreferrer"
        >
          On the blog
        </a>
      )}
    </li>
  );
}
