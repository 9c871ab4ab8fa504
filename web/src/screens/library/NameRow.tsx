import { Pencil } from "lucide-react";
import { useState } from "react";
import { keys } from "@/api/keys";
import { mergeNames, type Name, type NameKind, putUnder, removeName, renameName } from "@/api/names";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { NameInput } from "@/ui/NameInput";
import { useTell } from "@/ui/Toasts";
import { WordSelect } from "@/ui/WordSelect";
import { KINDS } from "./kinds";
import { MergeDialog } from "./MergeDialog";

const TOP = "-top-";

interface NameRowProps {
  blog: string;
  kind: NameKind;
  row: Name;
  /** The others that it can be merged with or moved below. */
  all: readonly Name[];
  editor: boolean;
}

export function NameRow({ blog, kind, row, all, editor }: NameRowProps) {
  const tell = useTell();
  const [merging, setMerging] = useState(false);
  const [naming, setNaming] = useState(false);
  const refresh = [keys.names(blog), keys.blog(blog), keys.posts(blog)];
  const renaming = useChange((name: string) => renameName(blog, kind, row.id, name), { refresh });
  const removing = useChange(() => removeName(blog, kind, row.id), { refresh });
  const moving = useChange((parent: number | null) => putUnder(blog, row.id, parent), { refresh });
  const joining = useChange((into: number) => mergeNames(blog, kind, row.id, into), {
    refresh,
    onDone: (kept) => tell(`“${row.name}” is merged into “${kept.name}”: ${plural(kept.posts, "post")}.`),
  });
  const others = all.filter(({ id }) => id !== row.id);
  return (
    <li className="border-t border-line2 px-5 py-2 first:border-0">
      <div className="grid grid-cols-[minmax(0,1fr)_80px_150px_190px] items-center gap-4">
        {naming ? (
          <NameInput
            label={`Name of ${row.name}`}
            value={row.name}
            longest={80}
            onChange={(name) => name && renaming.mutate(name)}
            onDone={() => setNaming(false)}
          />
        ) : (
          <span className="flex min-w-0 items-center gap-2">
            <span className="truncate font-semibold">{row.name}</span>
            {editor && (
              <Button small look="quiet" aria-label={`Rename ${row.name}`} onClick={() => setNaming(true)}>
                <Pencil size={12} />
              </Button>
            )}
          </span>
        )}
        <span className="text-xs text-ink3">{plural(row.posts, "post")}</span>
        <span className="text-xs text-ink3">
          {kind === "category" && editor && (
            <WordSelect
              label={`${row.name} stands under`}
              value={row.parent ? String(row.parent) : TOP}
              options={[
                { value: TOP, label: "on top" },
                ...others.map((other) => ({ value: String(other.id), label: `under ${other.name}` })),
              ]}
              onChange={(next) => moving.mutate(next === TOP ? null : Number(next))}
            />
          )}
        </span>
        {editor && (
          <span className="flex justify-end gap-2">
            <Button small disabled={!others.length} onClick={() => setMerging(true)}>
              Merge…
            </Button>
            <Confirm
              trigger={
                <Button small look="danger" disabled={row.posts > 0}>
                  Remove
                </Button>
              }
              title={`Remove “${row.name}”?`}
              text={`No post has it. Rules that name it make this ${KINDS[kind].one} anew.`}
              action="Remove"
              onConfirm={() => removing.mutate()}
            />
          </span>
        )}
      </div>
      <FormError error={renaming.error ?? removing.error ?? moving.error ?? joining.error} />
      {merging && (
        <MergeDialog
          kind={kind}
          row={row}
          others={others}
          onClose={() => setMerging(false)}
          onChosen={joining.mutate}
        />
      )}
    </li>
  );
}
