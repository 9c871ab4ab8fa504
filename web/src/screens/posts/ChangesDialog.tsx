import { useQuery } from "@tanstack/react-query";
import { changesQuery } from "@/api/posts";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { changeState, changeWords } from "@/lib/change-words";
import { moment } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import type { BulkState } from "./useBulk";

interface ChangesDialogProps {
  blog: string;
  bulk: BulkState;
  onClose: () => void;
}

/** The last twenty changes of posts, each with undo. */
export function ChangesDialog({ blog, bulk, onClose }: ChangesDialogProps) {
  const changes = useQuery(changesQuery(blog));
  return (
    <Dialog
      open
      wide
      onOpenChange={onClose}
      title="Last changes"
      description="What was changed again since stays as it is when a change is taken back."
    >
      {changes.error && <ErrorNote error={changes.error} onRetry={changes.refetch} />}
      {changes.isPending && <Loading what="the last changes" />}
      {changes.data?.length === 0 && <p className="text-ink3">Nobody has changed a post yet.</p>}
      <ul aria-label="Last changes" className="divide-y divide-line2">
        {changes.data?.map((change) => {
          const state = changeState(change);
          const under = change.state === "waiting" || change.state === "running";
          return (
            <li key={change.id} className="flex items-center gap-3 py-2">
              <p className="min-w-0 flex-1">
                <span className="block truncate">
                  <span className="font-medium">{change.by || "The server"}</span> {changeWords(change)}
                </span>
                <span className="text-xs text-ink3">
                  {moment(change.at)}
                  {change.posts > 1 && change.subject && ` · ${change.subject}`}
                  {state && ` · ${state}`}
                </span>
              </p>
              {!change.taken_back && !under && change.changed > 0 && change.action !== "written" && (
                <Button small busy={bulk.busy} onClick={() => bulk.takeBack(change.id)}>
                  Take back
                </Button>
              )}
            </li>
          );
        })}
      </ul>
    </Dialog>
  );
}
