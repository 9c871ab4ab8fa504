import { useState } from "react";
import { FormError } from "@/components/FormError";
import { CampaignWord } from "@/components/words/CampaignWord";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";

interface CampaignTogetherProps {
  blog: string;
  number: number;
  busy: boolean;
  error: Error | null;
  onAdd: (slug: string) => void;
  onClose: () => void;
}

/** Asks which campaign is to gather several sources as well. */
export function CampaignTogether({ blog, number, busy, error, onAdd, onClose }: CampaignTogetherProps) {
  const [slug, setSlug] = useState("");
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`Add ${plural(number, "source")} to a campaign`}
      description="Its rules get a new revision. Nothing is run by it."
    >
      <p className="leading-loose">
        Gather them in <CampaignWord blog={blog} value={slug} any="choose a campaign" onChange={setSlug} />
      </p>
      <FormError error={error} />
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="primary" disabled={!slug} busy={busy} onClick={() => onAdd(slug)}>
          Add
        </Button>
      </div>
    </Dialog>
  );
}
