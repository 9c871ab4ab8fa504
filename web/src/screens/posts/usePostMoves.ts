import { useQueryClient } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { type Move, movePost, type Post } from "@/api/posts";
import { useToldChange } from "@/components/useToldChange";
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
  const move = ({ post, to, date, why }: Moving) =>
    movePost(blog, post.id, to, {
      seen: post.state,
      ...(date ? { date } : {}),
      ...(why ? { why } : {}),
    });
  const moving = useToldChange(move, {
    refresh: ({ post }) => [keys.posts(blog), keys.post(blog, post.id), keys.campaigns(blog)],
    onDone: (_moved, { post, to }) => {
      tell(`${STATE_WORDS[to]}: “${post.title}”.`, {
        ...(post.state !== "gone" && post.state !== "scheduled"
          ? { undo: () => moving.mutate({ post: { ...post, state: to }, to: post.state as Move }) }
          : {}),
      });
    },
    // Another person may have been first.
    onFault: () => queries.invalidateQueries({ queryKey: keys.posts(blog) }),
  });
  return moving;
}
