import { useState } from "react";
import type { DecisionRow as Row } from "@/api/runs";
import { useMay } from "@/api/useRole";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { DecisionDialog } from "./DecisionDialog";
import { DecisionRow } from "./DecisionRow";
import { type ChosenItems, useLetThrough } from "./useLetThrough";

/** Items without a post can be picked. */
const isStopped = ({ verdict }: Row) => verdict === "refused" || verdict === "duplicate";

interface DecisionListProps {
  blog: string;
  label: string;
  rows: readonly Row[];
}

/** Decisions, each leading to its trace. Those that the rules have stopped can be let through. */
export function DecisionList({ blog, label, rows }: DecisionListProps) {
  const editor = useMay()("editor");
  const [open, setOpen] = useState<number | null>(null);
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const { letting, forgetting } = useLetThrough(blog, () => setPicked(new Set()));
  const chosen = rows.filter(({ id }) => picked.has(id));
  const stopped = rows.filter(isStopped);

  /** Each campaign decides for itself. */
  function each(act: (chosen: ChosenItems) => void) {
    for (const slug of new Set(chosen.map(({ campaign }) => campaign)))
      act({ slug, items: chosen.filter(({ campaign }) => campaign === slug).map(({ item }) => item) });
  }

  function pick(id: number, on: boolean) {
    setPicked((before) => new Set(on ? [...before, id] : [...before].filter((other) => other !== id)));
  }

  return (
    <>
      {editor && stopped.length > 0 && (
        <div className="flex min-h-9 flex-wrap items-center gap-2 border-t border-line2 bg-chalk px-4 py-1">
          <label className="flex items-center gap-2.5">
            <input
              type="checkbox"
              checked={stopped.every(({ id }) => picked.has(id))}
              onChange={({ target }) => setPicked(new Set(target.checked ? stopped.map(({ id }) => id) : []))}
            />
            {chosen.length ? `${plural(chosen.length, "item")} picked` : "Pick what was stopped on this page"}
          </label>
          {chosen.length > 0 && (
            <>
              <Button small look="primary" busy={letting.isPending} onClick={() => each(letting.mutate)}>
                Let through
              </Button>
              <Button small busy={forgetting.isPending} onClick={() => each(forgetting.mutate)}>
                Decide again
              </Button>
              <span className="text-ink3 text-xs">
                Let through: their posts are made now, whatever filters and duplicates say. Decide again: the
                next run goes by the rules of then.
              </span>
            </>
          )}
        </div>
      )}
      <ul aria-label={label}>
        {rows.map((row) => (
          <DecisionRow
            key={row.id}
            row={row}
            blog={blog}
            pickable={editor && stopped.length > 0}
            onOpen={() => setOpen(row.id)}
            {...(editor &&
              isStopped(row) && { picked: picked.has(row.id), onPick: (on) => pick(row.id, on) })}
          />
        ))}
      </ul>
      {open !== null && <DecisionDialog blog={blog} id={open} onClose={() => setOpen(null)} />}
    </>
  );
}
