import { keys } from "@/api/keys";
import { emptyBin } from "@/api/posts";
import { useChange } from "@/api/useChange";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";

/** Empties the bin after a confirmation, since it cannot be undone. */
export function EmptyBin({ blog, number }: { blog: string; number: number }) {
  const emptying = useChange(() => emptyBin(blog), { refresh: [keys.posts(blog)] });
  if (!number) return null;
  return (
    <Confirm
      trigger={
        <Button small look="danger" busy={emptying.isPending}>
          Empty the bin
        </Button>
      }
      title="Empty the bin?"
      text={`${plural(number, "post")} go for good. Markers of those that are to stay away are kept. By itself a post goes after 30 days.`}
      action="Empty it"
      onConfirm={() => emptying.mutate()}
    />
  );
}
