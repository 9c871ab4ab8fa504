import { moment } from "@/lib/format";
import { Button } from "@/ui/Button";
import type { PostDraft } from "./post-drafts";

interface DraftFoundProps {
  draft: PostDraft;
  /** The version of the post as it is saved now. */
  version: number;
  onTakeUp: () => void;
  onLeave: () => void;
}

/** Offers unsaved edits that this browser has stored. */
export function DraftFound({ draft, version, onTakeUp, onLeave }: DraftFoundProps) {
  return (
    <section
      aria-label="Edits that were not saved"
      className="flex shrink-0 flex-wrap items-center gap-3 border-b border-line bg-plum-wash px-4 py-2"
    >
      <p className="min-w-0 flex-1">
        You have edits of {moment(draft.at)} that were not saved (
        {Object.keys(draft.values).join(", ").replaceAll("_", " ")}).
        {draft.version !== version && " The post was changed since."}
      </p>
      <Button small look="primary" onClick={onTakeUp}>
        Go on with them
      </Button>
      <Button small onClick={onLeave}>
        Drop them
      </Button>
    </section>
  );
}
