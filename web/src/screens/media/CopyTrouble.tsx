import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { keys } from "@/api/keys";
import { copiesQuery, retryCopies } from "@/api/media";
import { useChange } from "@/api/useChange";
import { copyFault } from "@/lib/copy-words";
import { moment, plural } from "@/lib/format";
import { Button } from "@/ui/Button";

/** Copies under way, and failed ones with their reasons. */
export function CopyTrouble({ blog, editor }: { blog: string; editor: boolean }) {
  const copies = useQuery(copiesQuery(blog));
  const [open, setOpen] = useState(false);
  const retrying = useChange(() => retryCopies(blog), { refresh: [keys.pictures(blog)] });
  if (!copies.data) return null;
  const { states, rows, total } = copies.data;
  const waiting = states.waiting ?? 0;
  if (!waiting && !total) return null;
  return (
    <div className="sheet-card px-4 py-3">
      <div className="flex flex-wrap items-center gap-3">
        {waiting > 0 && <p aria-live="polite">{plural(waiting, "picture")} being copied…</p>}
        {total > 0 && (
          <p className="text-ochre">
            {plural(total, "picture")} could not be copied. Posts show the next choice, or none.
          </p>
        )}
        {total > 0 && (
          <span className="ml-auto flex gap-2">
            <Button small look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
              {open ? "Hide them" : "Which ones"}
            </Button>
            {editor && (
              <Button small busy={retrying.isPending} onClick={() => retrying.mutate()}>
                Try them again now
              </Button>
            )}
          </span>
        )}
      </div>
      {open && (
        <ul className="mt-2 divide-y divide-line2">
          {rows.map((row) => (
            <li key={row.id} className="py-1.5 text-xs">
              <span className="block truncate font-mono">{row.url}</span>
              <span className="text-ink3">
                {copyFault(row.fault, row.why)};{" "}
                {row.next_at ? `tried again ${moment(row.next_at)}` : "not tried again by itself"}
              </span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
