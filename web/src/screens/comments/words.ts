import type { CommentState } from "@/api/comments";

export const COMMENT_WORDS: Record<CommentState, string> = {
  waiting: "Waiting",
  shown: "Shown",
  removed: "Removed",
};
