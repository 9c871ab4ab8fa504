import { useQuery } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { olderQuery, stopOlder, type Walk } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";

function walkWords(walk: Walk): string {
  const so_far = `${plural(walk.page, "page")} read, ${plural(walk.found, "item")}, ${walk.fresh} of them new.`;
  if (walk.state === "waiting") return "Older items will be read in a moment.";
  if (walk.state === "walking") return `Reading older items: ${so_far}`;
  return `Older items: ${so_far} ${walk.why_ended}`;
}

/** The progress of reading older items; nothing where it was never started. */
export function SourceWalk({ blog, source }: { blog: string; source: string }) {
  const walk = useQuery(olderQuery(blog, source)).data;
  const stopping = useChange(() => stopOlder(blog, source), { refresh: [keys.source(blog, source)] });
  if (!walk?.state) return null;
  const running = walk.state === "waiting" || walk.state === "walking";
  return (
    <p role="status" className="mb-4 flex items-center gap-3 text-ink2">
      {walkWords(walk)}
      {running && (
        <Button small busy={stopping.isPending} onClick={() => stopping.mutate()}>
          Stop
        </Button>
      )}
    </p>
  );
}
