import { useQuery } from "@tanstack/react-query";
import { type Campaign, forgetMemory, memoryQuery } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { useTell } from "@/ui/Toasts";

interface ForgetDialogProps {
  blog: string;
  campaign: Campaign;
  onClose: () => void;
}

/** Lets the next run decide items without a post again, after counting them. */
export function ForgetDialog({ blog, campaign, onClose }: ForgetDialogProps) {
  const tell = useTell();
  const memory = useQuery(memoryQuery(blog, campaign.slug));
  const forgetting = useChange(() => forgetMemory(blog, campaign.slug), {
    refresh: [keys.proof, keys.posts, keys.run, keys.runs, keys.campaigns].map((key) => key(blog)),
    onDone: ({ items }) => {
      tell(`Forgotten: ${plural(items, "item")}. The next run decides them again.`);
      onClose();
    },
  });
  const items = memory.data?.items;
  const fault = forgetting.error ?? memory.error;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Decide these items again at the next run?"
      description={
        items === undefined
          ? "Counting…"
          : `The campaign forgets ${plural(items, "item")} that did not become posts. The next run decides them by the rules saved then. Posts stay, and what people refused by hand stays refused: to decide such an item again, pick it among the items decided.`
      }
    >
      {fault && <p className="mb-3 font-medium text-madder">{fault.message}</p>}
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Keep the memory</Button>
        <Button
          look="danger"
          disabled={!items}
          busy={forgetting.isPending}
          onClick={() => forgetting.mutate()}
        >
          Forget {items === undefined ? "" : plural(items, "item")}
        </Button>
      </div>
    </Dialog>
  );
}
