import { type Comment, type CommentState, moveComment } from "@/api/comments";
import { keys } from "@/api/keys";
import { useToldChange } from "@/components/useToldChange";
import { useTell } from "@/ui/Toasts";
import { COMMENT_WORDS } from "./words";

interface Move {
  comment: Comment;
  to: CommentState;
}

/** Approves or removes comments, with undo in the message. */
export function useCommentMoves(blog: string) {
  const tell = useTell();
  const moving = useToldChange(({ comment, to }: Move) => moveComment(blog, comment.id, to), {
    refresh: [keys.comments(blog)],
    onDone: (_moved, { comment, to }) =>
      tell(`${COMMENT_WORDS[to]}: what ${comment.name} says.`, {
        undo: () => moving.mutate({ comment, to: comment.state }),
      }),
  });
  return moving;
}
