import { useQuery, useQueryClient } from "@tanstack/react-query";
import { clearDefaults, defaultsQuery, setDefaults } from "@/api/campaigns";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { useToldChange } from "@/components/useToldChange";
import { defaultsDifferences } from "@/lib/defaults";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { Dialog } from "@/ui/Dialog";
import { Scroll } from "@/ui/Scroll";
import { useTell } from "@/ui/Toasts";
import type { BenchState } from "../useBench";

interface DefaultsDialogProps {
  blog: string;
  bench: BenchState;
  onClose: () => void;
}

/** The differences of these rules from the defaults, and the way to change the defaults. */
export function DefaultsDialog({ blog, bench, onClose }: DefaultsDialogProps) {
  const queries = useQueryClient();
  const tell = useTell();
  const defaults = useQuery(defaultsQuery(blog));
  const keep = (said: string) => ({
    onDone: (document: Parameters<typeof setDefaults>[1]) => {
      queries.setQueryData(defaultsQuery(blog).queryKey, document);
      tell(said);
    },
  });
  const setting = useToldChange(
    () => setDefaults(blog, bench.document),
    keep("New campaigns begin with these rules now."),
  );
  const clearing = useToldChange(
    () => clearDefaults(blog),
    keep("New campaigns begin with the original defaults again."),
  );
  const found = defaults.data ? defaultsDifferences(defaults.data, bench.document) : [];
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Defaults of the blog"
      description="What every new campaign of this blog begins with. Sources are never among them."
    >
      {defaults.error && <ErrorNote error={defaults.error} onRetry={defaults.refetch} />}
      {defaults.isPending && <Loading what="the defaults of the blog" rows={3} />}
      {defaults.data && found.length === 0 && (
        <p className="text-ink3">These rules are the same as the defaults of the blog.</p>
      )}
      {found.length > 0 && (
        <Scroll label="Where these rules differ" className="max-h-[40vh]">
          <ul aria-label="Differences" className="space-y-1 text-xs">
            {found.map((one) => (
              <li key={one.path}>
                <span className="text-ink3">{one.path}</span>
                <br />
                {one.before && <del className="text-ink3">{one.before}</del>}{" "}
                {one.after && <span className="font-semibold text-verd">{one.after}</span>}
              </li>
            ))}
          </ul>
        </Scroll>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Confirm
          trigger={<Button small>Back to the original defaults</Button>}
          title="Drop the defaults of the blog?"
          text="New campaigns begin with the original defaults again. Campaigns that exist do not change."
          action="Drop defaults"
          onConfirm={() => clearing.mutate()}
        />
        <Button
          small
          look="primary"
          busy={setting.isPending}
          disabled={found.length === 0 || Boolean(bench.proof.error)}
          onClick={() => setting.mutate()}
        >
          Make these rules the defaults
        </Button>
      </div>
    </Dialog>
  );
}
