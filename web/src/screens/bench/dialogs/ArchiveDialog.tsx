import { useNavigate } from "react-router";
import { archiveCampaign, type Campaign } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { desk } from "@/lib/blog-path";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";

interface ArchiveDialogProps {
  blog: string;
  campaign: Pick<Campaign, "slug" | "name">;
  onClose: () => void;
}

export function ArchiveDialog({ blog, campaign, onClose }: ArchiveDialogProps) {
  const navigate = useNavigate();
  const archiving = useChange(() => archiveCampaign(blog, campaign.slug, true), {
    refresh: [keys.campaigns(blog), keys.today(blog)],
    onDone: () => navigate(desk.campaigns(blog)),
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`Archive “${campaign.name}”?`}
      description="It runs no more and leaves the list. Its posts, decisions and revisions stay. You can restore it at any time, under the list of campaigns."
    >
      <FormError error={archiving.error} />
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="primary" busy={archiving.isPending} onClick={() => archiving.mutate()}>
          Archive
        </Button>
      </div>
    </Dialog>
  );
}
