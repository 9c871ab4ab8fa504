import { Link } from "react-router";
import type { Comment } from "@/api/comments";
import { useMay } from "@/api/useRole";
import { desk } from "@/lib/blog-path";
import { moment } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Lozenge } from "@/ui/Lozenge";
import type { useCommentMoves } from "./useCommentMoves";
import { COMMENT_WORDS } from "./words";

interface CommentRowProps {
  blog: string;
  comment: Comment;
  moving: ReturnType<typeof useCommentMoves>;
}

const MARKS = { waiting: "hold", shown: "publish", removed: "refused" } as const;

/** A comment with its post and its actions. */
export function CommentRow({ blog, comment, moving }: CommentRowProps) {
  const busy = moving.isPending && moving.variables?.comment.id === comment.id;
  const { state } = comment;
  const reviewer = useMay()("reviewer");
  return (
    <li className="flex items-start gap-3 border-t border-line2 px-4 py-2.5 first:border-0">
      <span className="flex w-20 shrink-0 items-center gap-1.5 pt-px text-[12px]">
        <Lozenge kind={MARKS[state]} /> {COMMENT_WORDS[state]}
      </span>
      <div className="min-w-0 flex-1">
        <p className="whitespace-pre-line break-words">{comment.text}</p>
        <p className="mt-0.5 truncate text-[11.5px] text-ink3">
          {comment.name} · {moment(comment.made_at)} · under{" "}
          <Link className="hover:text-verd" to={desk.post(blog, comment.post)}>
            {comment.post_title}
          </Link>
        </p>
      </div>
      <span className="flex shrink-0 gap-1.5">
        {reviewer && state !== "shown" && (
          <Button small look="primary" busy={busy} onClick={() => moving.mutate({ comment, to: "shown" })}>
            Show
          </Button>
        )}
        {reviewer && state !== "removed" && (
          <Button small look="danger" busy={busy} onClick={() => moving.mutate({ comment, to: "removed" })}>
            Remove
          </Button>
        )}
      </span>
    </li>
  );
}
