import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Campaign } from "@/api/campaigns";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { campaignAddressQuery, setCampaignAddress } from "@/api/notices";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";

interface AddressDialogProps {
  blog: string;
  campaign: Campaign;
  onClose: () => void;
}

/** The mail address notified of a campaign's runs. */
export function AddressDialog({ blog, campaign, onClose }: AddressDialogProps) {
  const tell = useTell();
  const found = useQuery(campaignAddressQuery(blog, campaign.slug));
  const [typed, setTyped] = useState<string | null>(null);
  const email = typed ?? found.data?.email ?? "";
  const saving = useChange(() => setCampaignAddress(blog, campaign.slug, email), {
    refresh: [keys.campaign(blog, campaign.slug, "address")],
    onDone: () => {
      tell(email ? `${email} is told of each run.` : "Nobody is told by mail.");
      onClose();
    },
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Mail address for its runs"
      description="It gets a message after each run that made posts or failed. Leave it empty for none."
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          saving.mutate();
        }}
      >
        <Field label="Mail address" error={faultAt(saving.error, "email")}>
          <input
            className={inputLook}
            value={email}
            maxLength={254}
            onChange={(event) => setTyped(event.target.value)}
          />
        </Field>
        {found.data && !found.data.mail_is_set_up && (
          <p className="text-ochre">This installation has no mail server, so that nothing is sent.</p>
        )}
        <FormError error={saving.error ?? found.error} fields={["email"]} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" busy={saving.isPending}>
            Save
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
