import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { archiveCampaign, archivedQuery } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { FormError } from "@/components/FormError";
import { moment, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { useTell } from "@/ui/Toasts";
import { DeleteDialog } from "./DeleteDialog";

/** The archived campaigns below the list, to restore or delete. */
export function Archive({ blog }: { blog: string }) {
  const tell = useTell();
  const may = useMay();
  const archived = useQuery(archivedQuery(blog)).data ?? [];
  const [deleting, setDeleting] = useState<{ slug: string; name: string } | null>(null);
  const taking = useChange(({ slug }: { slug: string; name: string }) => archiveCampaign(blog, slug, false), {
    refresh: [keys.campaigns(blog), keys.today(blog)],
    onDone: (_, { name }) => tell(`“${name}” is back on the list.`),
  });
  if (!archived.length) return null;
  return (
    <details className="mt-5">
      <summary className="cursor-pointer text-ink2">{plural(archived.length, "archived campaign")}</summary>
      <FormError error={taking.error} />
      <ul aria-label="Archived campaigns" className="sheet-card mt-2">
        {archived.map((campaign) => (
          <li
            key={campaign.slug}
            className="flex items-center gap-3 border-t border-line2 px-5 py-2 first:border-0"
          >
            <span className="font-semibold">{campaign.name}</span>
            <span className="text-xs text-ink3">archived {moment(campaign.archived_at)}</span>
            {may("editor") && (
              <span className="ml-auto flex gap-2">
                <Button small busy={taking.isPending} onClick={() => taking.mutate(campaign)}>
                  Restore
                </Button>
                <Button small look="danger" onClick={() => setDeleting(campaign)}>
                  Delete…
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
      {deleting && <DeleteDialog blog={blog} {...deleting} onClose={() => setDeleting(null)} />}
    </details>
  );
}
