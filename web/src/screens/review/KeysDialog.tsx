import { Dialog } from "@/ui/Dialog";
import { keysOf } from "./useReviewKeys";

/** What each key does at the review desk. */
export function KeysDialog({ reviewer, onClose }: { reviewer: boolean; onClose: () => void }) {
  return (
    <Dialog open onOpenChange={onClose} title="Keys" description="They work while nothing is typed.">
      <dl className="grid grid-cols-[70px_1fr] gap-y-1.5">
        {keysOf(reviewer).map(([key, does]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded border border-line px-1.5 text-xs">{key}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
