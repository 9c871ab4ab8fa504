import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { clearDefaults, defaultsQuery, setDefaults } from "@/api/campaigns";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { houseDifferences } from "@/lib/house";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { Dialog } from "@/ui/Dialog";
import { useTell } from "@/ui/Toasts";
import type { BenchState } from "./useBench";

interface HouseDialogProps {
  blog: string;
  bench: BenchState;
  onClose: () => void;
}

/** Where these rules differ from those that every new campaign begins with, and the way to change the latter. */
export function HouseDialog({ blog, bench, onClose }: HouseDialogProps) {
  const queries = useQueryClient();
  const tell = useTell();
  const house = useQuery(defaultsQuery(blog));
  const keep = (said: string) => ({
    onSuccess: (document: Parameters<typeof setDefaults>[1]) => {
      queries.setQueryData(defaultsQuery(blog).queryKey, document);
      tell(said);
    },
    onError: (error: Error) => tell(error.message, { tone: "bad" }),
  });
  const setting = useMutation({
    mutationFn: () => setDefaults(blog, bench.document),
    ...keep("New campaigns begin with these rules now."),
  });
  const clearing = useMutation({
    mutationFn: () => clearDefaults(blog),
    ...keep("New campaigns begin with the product’s own defaults again."),
  });
  const found = house.data ? houseDifferences(house.data, bench.document) : [];
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="House defaults"
      description="What every new campaign of this blog begins with. Sources are never among them."
    >
      {house.error && <ErrorNote error={house.error} onRetry={house.refetch} />}
      {house.isPending && <Loading what="the house defaults" rows={3} />}
      {house.data && found.length === 0 && (
        <p className="text-ink3">These rules are as the house has them.</p>
      )}
      {found.length > 0 && (
        <ul aria-label="Differences" className="max-h-[40vh] space-y-1 overflow-auto text-xs">
          {found.map((one) => (
            <li key={one.path}>
              <span className="text-ink3">{one.path}</span>
              <br />
              {one.before && <del className="text-ink3">{one.before}</del>}{" "}
              {one.after && <span className="font-semibold text-verd">{one.after}</span>}
            </li>
          ))}
        </ul>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Confirm
          trigger={<Button small>Back to the product’s own</Button>}
          title="Give up the house defaults?"
          text="New campaigns begin with the product’s own defaults again. Campaigns that exist are not touched."
          action="Give up"
          onConfirm={() => clearing.mutate()}
        />
        <Button
          small
          look="primary"
          busy={setting.isPending}
          disabled={found.length === 0 || Boolean(bench.proof.error)}
          onClick={() => setting.mutate()}
        >
          Make these rules the house’s
        </Button>
      </div>
    </Dialog>
  );
}
