import { useState } from "react";
import { keys } from "@/api/keys";
import { liftTakedown, type Takedown } from "@/api/takedowns";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { moment, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";

interface TakedownRowProps {
  blog: string;
  row: Takedown;
  editor: boolean;
}

/** The record of one takedown: who asked, what went, and whether it is still blocked. */
export function TakedownRow({ blog, row, editor }: TakedownRowProps) {
  const [open, setOpen] = useState(false);
  const lifting = useChange(() => liftTakedown(blog, row.id), {
    refresh: [keys.takedowns(blog), keys.sources(blog), keys.source(blog)],
  });
  return (
    <li className="border-t border-line2 px-4 py-3 first:border-0">
      <div className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <p className="font-medium">
            {row.whole_source ? "All of the source " : ""}“{row.subject}”
          </p>
          <p className="text-xs text-ink3">
            asked by {row.asked_by} · withdrawn {moment(row.at)}
            {row.by && ` by ${row.by}`} · {plural(row.withdrawn.length, "post")}
            {row.lifted_at && ` · allowed again ${moment(row.lifted_at)}`}
          </p>
          {row.reason && <p className="mt-1 whitespace-pre-line">{row.reason}</p>}
        </div>
        {row.withdrawn.length > 0 && (
          <Button small look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? "Hide the posts" : "Which posts"}
          </Button>
        )}
        {editor && !row.lifted_at && (
          <Confirm
            trigger={<Button small>Allow again</Button>}
            title={`Allow “${row.subject}” again?`}
            text="It is not blocked any more: campaigns decide its new items. Its posts stay in the bin."
            action="Allow it"
            onConfirm={() => lifting.mutate()}
          />
        )}
      </div>
      <FormError error={lifting.error} />
      {open && (
        <ul className="mt-2 max-h-72 space-y-1 overflow-auto border-l-2 border-line2 pl-3 text-xs">
          {row.withdrawn.map((post) => (
            <li key={post.address}>
              {post.title} <span className="text-ink3">· {moment(post.date)} · </span>
              <span className="font-mono text-ink3">{post.address}</span>
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}
