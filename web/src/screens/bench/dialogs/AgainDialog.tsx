import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { againFromNothing, againQuery, type Campaign } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { ErrorNote } from "@/components/ErrorNote";
import { FormError } from "@/components/FormError";
import { Loading } from "@/components/Loading";
import { desk } from "@/lib/blog-path";
import { WhatGoes } from "@/screens/posts/WhatGoes";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";

interface AgainDialogProps {
  blog: string;
  campaign: Campaign;
  onClose: () => void;
}

/** Deletes a campaign's posts and imports again, after an optional comparison. */
export function AgainDialog({ blog, campaign, onClose }: AgainDialogProps) {
  const navigate = useNavigate();
  const [spare, setSpare] = useState(true);
  const counted = useQuery(againQuery(blog, campaign.slug));
  const again = useChange(() => againFromNothing(blog, campaign.slug, spare), {
    refresh: [keys.runs(blog), keys.posts(blog), keys.campaigns(blog), keys.proof(blog)],
    onDone: ({ run }) => navigate(desk.run(blog, run)),
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Run again from nothing?"
      description={`The posts of “${campaign.name}” go into the bin, what became of its items is forgotten, and a run begins by revision ${campaign.revision}. Posts that come again get their old addresses. What people refused stays refused.`}
    >
      {counted.error && <ErrorNote error={counted.error} onRetry={counted.refetch} />}
      {counted.isPending && <Loading what="what would go" />}
      {counted.data && <WhatGoes touched={counted.data} spare={spare} onSpare={setSpare} />}
      <p className="mt-3">
        <Link className="font-semibold text-verd hover:underline" to={desk.replay(blog, campaign.slug)}>
          Look at the differences first
        </Link>
      </p>
      <FormError error={again.error} />
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="danger" disabled={!counted.data} busy={again.isPending} onClick={() => again.mutate()}>
          Delete and run
        </Button>
      </div>
    </Dialog>
  );
}
