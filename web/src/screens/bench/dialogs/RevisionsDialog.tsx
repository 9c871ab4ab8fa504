import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Campaign, type CampaignDocument, revisionQuery, revisionsQuery } from "@/api/campaigns";
import { Differences } from "@/components/Differences";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { differences } from "@/lib/document-diff";
import { moment } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Scroll } from "@/ui/Scroll";

interface RevisionsDialogProps {
  blog: string;
  campaign: Campaign;
  onLoad: (document: CampaignDocument) => void;
  onClose: () => void;
}

interface RevisionDetailProps extends RevisionsDialogProps {
  number: number;
}

function RevisionDetail({ blog, campaign, number, onLoad, onClose }: RevisionDetailProps) {
  const revision = useQuery(revisionQuery(blog, campaign.slug, number));
  if (revision.error) return <ErrorNote error={revision.error} onRetry={revision.refetch} />;
  if (!revision.data) return <Loading what="the revision" rows={2} />;
  const document = revision.data;
  const found = differences(document, campaign.document);
  return (
    <div className="mt-1 rounded-md border border-line2 bg-chalk p-2">
      {found.length === 0 && <p className="text-ink3">The same rules as now.</p>}
      <Scroll label="What has changed since" className="max-h-48">
        <Differences differences={found} />
      </Scroll>
      {found.length > 0 && (
        <Button
          small
          className="mt-2"
          onClick={() => {
            onLoad(document);
            onClose();
          }}
        >
          Load these rules on the bench
        </Button>
      )}
    </div>
  );
}

/** All revisions with their differences, and the way back. */
export function RevisionsDialog(props: RevisionsDialogProps) {
  const { blog, campaign, onClose } = props;
  const revisions = useQuery(revisionsQuery(blog, campaign.slug));
  const [open, setOpen] = useState<number | null>(null);
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Revisions"
      description="Every saved state of these rules, newest first. Choose one to see what has changed since."
    >
      {revisions.error && <ErrorNote error={revisions.error} />}
      {revisions.isPending && <Loading what="revisions" rows={3} />}
      <Scroll label="All revisions" className="max-h-[50vh]">
        <ol>
          {revisions.data?.rows.map((revision) => (
            <li key={revision.number} className="border-t border-line2 py-2">
              <button
                type="button"
                aria-expanded={open === revision.number}
                className="flex w-full gap-3 text-left hover:text-verd"
                onClick={() => setOpen(open === revision.number ? null : revision.number)}
              >
                <span className="w-6 text-right font-semibold">{revision.number}</span>
                <span>
                  {moment(revision.saved_at)} {revision.saved_by && `· ${revision.saved_by}`}
                  {revision.note && <span className="block text-ink3">{revision.note}</span>}
                </span>
              </button>
              {open === revision.number && <RevisionDetail {...props} number={revision.number} />}
            </li>
          ))}
        </ol>
      </Scroll>
    </Dialog>
  );
}
