import type { Post } from "@/api/posts";
import { useMay } from "@/api/useRole";
import { publicPost } from "@/lib/blog-path";
import { Button, buttonLook } from "@/ui/Button";
import type { usePostMoves } from "./usePostMoves";

interface PostActionsProps {
  blog: string;
  post: Post;
  moving: ReturnType<typeof usePostMoves>;
}

export function PostActions({ blog, post, moving }: PostActionsProps) {
  const busy = moving.isPending && moving.variables?.post.id === post.id;
  const reviewer = useMay()("reviewer");
  const may = (state: Post["state"]) => reviewer && post.moves.includes(state);
  return (
    <span className="flex shrink-0 items-center gap-1.5">
      {post.state === "published" && (
        <a
          className={buttonLook("quiet", true)}
          href={publicPost(blog, post.slug)}
          target="_blank"
          rel="noreferrer"
        >
          On the blog
        </a>
      )}
      {post.state === "published" && may("held") && (
        <Button small busy={busy} onClick={() => moving.mutate({ post, to: "held" })}>
          Take off the blog
        </Button>
      )}
      {post.state !== "published" && may("published") && (
        <Button small look="primary" busy={busy} onClick={() => moving.mutate({ post, to: "published" })}>
          Publish
        </Button>
      )}
      {(post.state === "held" || post.state === "draft" || post.state === "scheduled") && may("refused") && (
        <Button small look="danger" busy={busy} onClick={() => moving.mutate({ post, to: "refused" })}>
          Refuse
        </Button>
      )}
    </span>
  );
}
