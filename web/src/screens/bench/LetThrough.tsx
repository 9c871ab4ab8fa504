import type { Decision, ProofItem } from "@/api/proofs";
import { useMay } from "@/api/useRole";
import { useLetThrough } from "@/screens/runs/useLetThrough";
import { Button } from "@/ui/Button";

interface LetThroughProps {
  blog: string;
  slug: string;
  decision: Decision;
  asked: ProofItem;
}

/** The way to make the post of one item that the rules stop. */
export function LetThrough({ blog, slug, decision, asked }: LetThroughProps) {
  const editor = useMay()("editor");
  const { letting } = useLetThrough(blog);
  const stopped = decision.verdict === "refused" || decision.verdict === "duplicate";
  // A sample is no item of a source.
  if (!editor || !stopped || asked.over.sample) return null;
  return (
    <p className="mt-2 flex items-center gap-2 text-ink3 text-xs">
      <Button small busy={letting.isPending} onClick={() => letting.mutate({ slug, items: [asked.item] })}>
        Let this one through
      </Button>
      Makes its post now, by the saved rules.
    </p>
  );
}
