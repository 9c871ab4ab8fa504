import { useMutation, useQueryClient } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { type Move, movePost, type Post } from "@/api/posts";
import { STATE_WORDS } from "@/lib/wording";
import { useTell } from "@/ui/Toasts";

interface Moving {
  post: Post;
  to: Move;
  date?: string;
  why?: string;
}

/** Moves posts between states, with undo in the message. */
export function usePostMoves(blog: string) {
  const queries = useQueryClient();
  const tell = useTell();
  const moving = useMutation({
    mutationFn: ({ post, to, date, why }: Moving) =>
      movePost(blog, post.id, to, {
        seen: post.state,
        ...(date ? { date } : {}),
        ...(why ? { why } : {}),
      }),
    onSuccess: (_moved, { post, to }) => {
      queries.invalidateQueries({ queryKey: keys.posts(blog) });
      queries.invalidateQueries({ queryKey: keys.post(blog, post.id) });
      queries.invalidateQueries({ queryKey: keys.campaigns(blog) });
      tell(`${STATE_WORDS[to]}: “${post.title}”.`, {
        ...(post.state !== "gone" && post.state !== "scheduled"
          ? { undo: () => moving.mutate({ post: { ...post, state: to }, to: post.state as Move }) }
          : {}),
      });
    },
    onError: (error) => {
      tell(error.message, { tone: "bad" });
      // Another person may have been first.
      queries.invalidateQueries({ queryKey: keys.posts(blog) });
    },
  });
  return moving;
}
