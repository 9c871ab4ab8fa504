import { type CampaignFilter, findCampaignSlugs } from "@/api/campaigns";
import { useToldChange } from "@/components/useToldChange";
import { count, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { usePause } from "./usePause";

interface PickedCampaignsProps {
  blog: string;
  picked: ReadonlySet<string>;
  /** What the list is narrowed by, and how many campaigns that finds. */
  filter: CampaignFilter;
  total: number;
  onPick: (slugs: readonly string[]) => void;
}

/** What can be done with the picked campaigns. */
export function PickedCampaigns({ blog, picked, filter, total, onPick }: PickedCampaignsProps) {
  const pausing = usePause(blog, () => onPick([]));
  const finding = useToldChange(() => findCampaignSlugs(blog, filter), { onDone: onPick });
  return (
    <div className="flex items-center gap-2 border-b border-line2 bg-verd-wash px-5 py-1.5">
      {plural(picked.size, "campaign")} picked
      {total > picked.size && (
        <Button small look="quiet" busy={finding.isPending} onClick={() => finding.mutate()}>
          Pick all {count(total)} found
        </Button>
      )}
      <Button small onClick={() => pausing.mutate({ slugs: [...picked], paused: true })}>
        Pause
      </Button>
      <Button small onClick={() => pausing.mutate({ slugs: [...picked], paused: false })}>
        Resume
      </Button>
      <Button small look="quiet" onClick={() => onPick([])}>
        Pick none
      </Button>
    </div>
  );
}
