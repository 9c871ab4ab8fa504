import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { type Campaign, removeCampaign } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { desk } from "@/lib/blog-path";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";

interface RemoveDialogProps {
  blog: string;
  campaign: Campaign;
  onClose: () => void;
}

export function RemoveDialog({ blog, campaign, onClose }: RemoveDialogProps) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const removing = useMutation({
    mutationFn: () => removeCampaign(blog, campaign.slug),
    onSuccess: () => {
      queries.invalidateQueries({ queryKey: keys.campaigns(blog) });
      navigate(desk.campaigns(blog));
    },
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`Remove “${campaign.name}”?`}
      description="It makes no more posts and disappears from the list. Its posts, decisions and revisions stay."
    >
      {removing.error && <p className="mb-3 font-medium text-madder">{removing.error.message}</p>}
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="danger" busy={removing.isPending} onClick={() => removing.mutate()}>
          Remove campaign
        </Button>
      </div>
    </Dialog>
  );
}
