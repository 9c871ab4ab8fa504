import { ExternalLink } from "lucide-react";
import type { Move, Post } from "@/api/posts";
import { useMay } from "@/api/useRole";
import { publicPost } from "@/lib/blog-path";
import { Button, buttonLook } from "@/ui/Button";
import type { usePostMoves } from "./usePostMoves";

interface PostActionsProps {
  blog: string;
  post: Post;
  moving: ReturnType<typeof usePostMoves>;
  /** In little room links are icons. */
  compact?: boolean;
}

export function PostActions({ blog, post, moving, compact = false }: PostActionsProps) {
  const busy = moving.isPending && moving.variables?.post.id === post.id;
  const reviewer = useMay()("reviewer");
  const may = (state: Move) => reviewer && post.moves.includes(state);
  return (
    <span className="flex shrink-0 items-center gap-1.5">
      {post.state === "published" && (
        <a
          className={buttonLook("quiet", true)}
          href={publicPost(blog, post.slug)}
          target="_blank"
          rel="noreferrer"
        >
          {compact ? <ExternalLink size={13} aria-label="On the blog" /> : "On the blog"}
        </a>
      )}
      {post.state === "published" && may("held") && (
        <Button small busy={busy} onClick={() => moving.mutate({ post, to: "held" })}>
          {compact ? "Take off" : "Take off the blog"}
        </Button>
      )}
      {post.state === "binned" && may("held") && (
        <Button small busy={busy} onClick={() => moving.mutate({ post, to: "held" })}>
          Restore as held
        </Button>
      )}
      {post.state !== "published" && post.state !== "binned" && may("published") && (
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
