import { useQuery } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { changeQuery, takeBackChange } from "@/api/posts";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";

interface AppliedNoticeProps {
  blog: string;
  slug: string;
  /** The number of the change that applied the results. */
  change: number;
  editor: boolean;
}

/** What applying has changed, with the way back. */
export function AppliedNotice({ blog, slug, change, editor }: AppliedNoticeProps) {
  const found = useQuery(changeQuery(blog, change)).data;
  const takingBack = useChange(() => takeBackChange(blog, change), {
    refresh: [keys.posts(blog), keys.post(blog), keys.replay(blog, slug), keys.campaigns(blog)],
  });
  if (!found || found.state === "waiting" || found.state === "running") return null;
  const left = found.posts - found.changed;
  return (
    <div role="status" className="sheet-card flex flex-wrap items-center gap-3 px-4 py-2.5">
      <p className="min-w-0 flex-1">
        {found.taken_back
          ? "Taken back: the posts are as they were. Compare again to see what these rules would change."
          : `${plural(found.changed, "post")} changed${left > 0 ? `, ${left} left as ${left === 1 ? "it was" : "they were"}` : ""}.`}
      </p>
      {editor && !found.taken_back && found.changed > 0 && (
        <Button small busy={takingBack.isPending} onClick={() => takingBack.mutate()}>
          Take back
        </Button>
      )}
      <FormError error={takingBack.error} />
    </div>
  );
}
