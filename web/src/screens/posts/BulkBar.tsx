import { useState } from "react";
import { type Bulk, type PostList, selectionOf } from "@/api/posts";
import { count, plural } from "@/lib/format";
import { MakeEditions } from "@/screens/editions/MakeEditions";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { type BulkAsk, BulkDialog } from "./BulkDialog";
import { DeletePosts } from "./DeletePosts";
import type { BulkState } from "./useBulk";
import type { PostSelection } from "./useSelection";

interface BulkBarProps {
  blog: string;
  list: PostList;
  total: number;
  selection: PostSelection;
  bulk: BulkState;
  editor: boolean;
}

/** Actions for the selected posts. */
export function BulkBar({ blog, list, total, selection, bulk, editor }: BulkBarProps) {
  const [ask, setAsk] = useState<BulkAsk | null>(null);
  const [deleting, setDeleting] = useState(false);
  const [making, setMaking] = useState(false);
  const number = selection.all ? total : selection.number;
  const chosen = selection.all ? { filter: list } : { ids: selection.ids };
  const begin = (what: Bulk) => bulk.begin(chosen, what);
  const binned = list.state === "binned";
  const move = (to: NonNullable<Bulk["to"]>) => begin({ action: "moved", to });
  return (
    <section
      aria-label="Selected posts"
      className="flex shrink-0 flex-wrap items-center gap-2 border-b border-line bg-verd-wash px-4 py-2"
    >
      <p aria-live="polite" className="mr-2 font-medium">
        {selection.all ? `All ${plural(total, "post")} found` : `${plural(number, "post")} selected`}
      </p>
      {!selection.all && selection.wholePage && total > number && (
        <button
          type="button"
          className="min-h-6 font-semibold text-verd hover:underline"
          onClick={selection.chooseAll}
        >
          Select all {count(total)} found
        </button>
      )}
      <button type="button" className="min-h-6 text-ink3 hover:text-ink" onClick={selection.clear}>
        Select none
      </button>
      <span className="ml-auto flex flex-wrap gap-2">
        {binned ? (
          editor && (
            <Button small look="primary" busy={bulk.busy} onClick={() => begin({ action: "restored" })}>
              Restore
            </Button>
          )
        ) : (
          <>
            <Button small look="primary" busy={bulk.busy} onClick={() => move("published")}>
              Publish
            </Button>
            <Button small busy={bulk.busy} onClick={() => move("held")}>
              Hold
            </Button>
            <Button small busy={bulk.busy} onClick={() => setAsk("scheduled")}>
              Schedule…
            </Button>
            <Button small busy={bulk.busy} onClick={() => move("refused")}>
              Refuse
            </Button>
            {editor && (
              <>
                <Menu
                  trigger={
                    <Button small busy={bulk.busy}>
                      Change…
                    </Button>
                  }
                  entries={[
                    { label: "Move to a category…", onSelect: () => setAsk("category") },
                    { label: "Add or take tags…", onSelect: () => setAsk("tags") },
                    { label: "Set the byline…", onSelect: () => setAsk("byline") },
                    { label: "Make editions…", onSelect: () => setMaking(true) },
                  ]}
                />
                <Button small look="danger" busy={bulk.busy} onClick={() => setDeleting(true)}>
                  Delete…
                </Button>
              </>
            )}
          </>
        )}
      </span>
      {ask && (
        <BulkDialog
          blog={blog}
          ask={ask}
          number={number}
          onClose={() => setAsk(null)}
          onChosen={(what) => {
            setAsk(null);
            begin(what);
          }}
        />
      )}
      {making && (
        <MakeEditions
          blog={blog}
          selection={selectionOf(chosen)}
          number={number}
          onClose={() => setMaking(false)}
        />
      )}
      {deleting && (
        <DeletePosts
          blog={blog}
          selection={chosen}
          title={`Delete ${plural(number, "post")}?`}
          onClose={() => setDeleting(false)}
          onChosen={(choice) => {
            setDeleting(false);
            begin({ action: "binned", ...choice });
          }}
        />
      )}
    </section>
  );
}
