import { KeyRound, Lock, Pin } from "lucide-react";
import type { Post } from "@/api/posts";

const SHOWN = {
  private: { Icon: Lock, words: "private: for the people of this blog" },
  phrase: { Icon: KeyRound, words: "opens with a pass phrase" },
} as const;

/** Unusual traits of a post: pinned, restricted, of another kind. */
export function PostTraits({ post }: { post: Post }) {
  const shown = post.visibility === "public" ? null : SHOWN[post.visibility];
  if (!shown && !post.pinned && post.kind === "article") return null;
  return (
    <span className="flex items-center gap-1.5 text-[11.5px] text-ink3">
      {shown && (
        <span title={shown.words}>
          <shown.Icon size={11} aria-hidden="true" />
          <span className="sr-only">{shown.words}</span>
        </span>
      )}
      {post.pinned && (
        <span title="pinned on top">
          <Pin size={11} aria-hidden="true" />
          <span className="sr-only">pinned on top</span>
        </span>
      )}
      {post.kind !== "article" && post.kind}
    </span>
  );
}
