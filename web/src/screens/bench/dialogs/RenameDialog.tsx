import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Campaign, campaignQuery, renameCampaign } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { NameTaken } from "@/components/NameTaken";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

interface RenameDialogProps {
  blog: string;
  campaign: Campaign;
  onClose: () => void;
}

export function RenameDialog({ blog, campaign, onClose }: RenameDialogProps) {
  const queries = useQueryClient();
  const [name, setName] = useState(campaign.name);
  const renaming = useChange(() => renameCampaign(blog, campaign.slug, name), {
    refresh: [keys.campaigns(blog)],
    onDone: (saved) => {
      queries.setQueryData(campaignQuery(blog, campaign.slug).queryKey, saved);
      onClose();
    },
  });
  return (
    <Dialog open onOpenChange={onClose} title="Rename the campaign">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          renaming.mutate();
        }}
      >
        <Field label="Name" error={renaming.error?.message}>
          <input
            className={inputLook}
            value={name}
            maxLength={120}
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
        <NameTaken blog={blog} name={name} own={campaign.slug} />
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" disabled={!name.trim()} busy={renaming.isPending}>
            Rename
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
