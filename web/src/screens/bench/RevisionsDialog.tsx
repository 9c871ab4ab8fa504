import { useQuery } from "@tanstack/react-query";
import { type Campaign, revisionsQuery } from "@/api/campaigns";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { moment } from "@/lib/format";
import { Dialog } from "@/ui/Dialog";

interface RevisionsDialogProps {
  blog: string;
  campaign: Campaign;
  onClose: () => void;
}

export function RevisionsDialog({ blog, campaign, onClose }: RevisionsDialogProps) {
  const revisions = useQuery(revisionsQuery(blog, campaign.slug));
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Revisions"
      description="Every saved state of these rules, newest first."
    >
      {revisions.error && <ErrorNote error={revisions.error} />}
      {revisions.isPending && <Loading what="revisions" rows={3} />}
      <ol className="max-h-[50vh] overflow-auto">
        {revisions.data?.rows.map((revision) => (
          <li key={revision.number} className="flex gap-3 border-t border-line2 py-2">
            <span className="w-6 text-right font-semibold">{revision.number}</span>
            <span>
              {moment(revision.saved_at)} {revision.saved_by && `· ${revision.saved_by}`}
              {revision.note && <span className="block text-ink3">{revision.note}</span>}
            </span>
          </li>
        ))}
      </ol>
    </Dialog>
  );
}
