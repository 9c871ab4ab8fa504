import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type Comment, type CommentState, moveComment } from "@/api/comments";
import { keys } from "@/api/keys";
import { useTell } from "@/ui/Toasts";
import { COMMENT_WORDS } from "./words";

interface Move {
  comment: Comment;
  to: CommentState;
}

/** Approves or removes comments, with undo in the message. */
export function useCommentMoves(blog: string) {
  const queries = useQueryClient();
  const tell = useTell();
  const moving = useMutation({
    mutationFn: ({ comment, to }: Move) => moveComment(blog, comment.id, to),
    onSuccess: (_moved, { comment, to }) => {
      queries.invalidateQueries({ queryKey: keys.comments(blog) });
      tell(`${COMMENT_WORDS[to]}: what ${comment.name} says.`, {
        undo: () => moving.mutate({ comment, to: comment.state }),
      });
    },
    onError: (error) => tell(error.message, { tone: "bad" }),
  });
  return moving;
}
