import type { PostChange } from "@/api/posts";
import { changeWords } from "@/lib/change-words";
import { count } from "@/lib/format";
import { Button } from "@/ui/Button";

/** The progress of a change of many posts. */
export function BulkProgress({ change, onStop }: { change: PostChange; onStop: () => void }) {
  return (
    <section
      aria-label="Change under way"
      className="flex shrink-0 items-center gap-3 border-b border-line bg-ochre-wash px-4 py-2"
    >
      <p aria-live="polite">
        {changeWords(change)}: {count(change.done)} of {count(change.posts)}
      </p>
      <progress
        aria-label="Posts changed"
        className="h-1.5 flex-1 accent-verd"
        value={change.done}
        max={change.posts}
      />
      <Button small onClick={onStop}>
        Stop
      </Button>
    </section>
  );
}
