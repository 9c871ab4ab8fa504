import type { PostState } from "@/api/posts";
import { STATE_WORDS } from "@/lib/wording";
import { Lozenge, type LozengeKind } from "@/ui/Lozenge";

const KINDS: Record<PostState, LozengeKind> = {
  published: "publish",
  scheduled: "scheduled",
  held: "hold",
  draft: "draft",
  refused: "refused",
  binned: "refused",
  gone: "refused",
};

export function StateMark({ state }: { state: PostState }) {
  return (
    <span className="flex items-center gap-1.5 text-xs font-medium text-ink2">
      <Lozenge kind={KINDS[state]} /> {STATE_WORDS[state]}
    </span>
  );
}
