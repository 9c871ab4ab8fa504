import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { keys } from "@/api/keys";
import { type Applied, applyReplay, type Outcome, type Replay, replayResultsQuery } from "@/api/replay";
import { useChange } from "@/api/useChange";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { FormError } from "@/components/FormError";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { count, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { OUTCOMES } from "./outcomes";
import { ReplayRow } from "./ReplayRow";

interface ReplayResultsProps {
  blog: string;
  slug: string;
  replay: Replay;
  outcome: Outcome;
  editor: boolean;
  /** Whether it is still being compared or applied. */
  live: boolean;
}

const WHAT: Record<Applied, string> = {
  changed: "They read as these rules make them. What people edited stays.",
  refused: "They go into the bin, and their items stay away. Posts that people edited stay.",
  duplicate: "They go into the bin, and their items stay away. Posts that people edited stay.",
  new: "They become posts, and go out as these rules say.",
};

/** The items of one outcome with their changes; some or all can be applied. */
export function ReplayResults({ blog, slug, replay, outcome, editor, live }: ReplayResultsProps) {
  const [search, setSearch] = useState("");
  const [offset, setOffset] = useState(0);
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const found = useQuery(replayResultsQuery(blog, slug, replay.id, { outcome, search, offset }, live));
  const applying = useChange(
    (chosen: { outcomes: Applied[]; results: number[] }) => applyReplay(blog, replay.id, chosen),
    { refresh: [keys.replay(blog, slug)], onDone: () => setPicked(new Set()) },
  );
  const words = OUTCOMES.find((one) => one.outcome === outcome);
  const acts = outcome !== "same" && outcome !== "out";
  const total = replay.counts[outcome] ?? 0;
  const rows = found.data?.rows ?? [];
  return (
    <section aria-label={words?.head} className="sheet-card">
      <div className="flex flex-wrap items-center gap-3 border-b border-line2 px-4 py-2.5">
        <h2 className="text-base">
          {words?.head} <span className="font-normal text-ink3">{count(total)}</span>
        </h2>
        <SearchBox
          label="Find a post"
          value={search}
          onChange={(text) => {
            setSearch(text);
            setOffset(0);
          }}
        />
        {acts && editor && rows.length > 0 && (
          <span className="ml-auto flex gap-2">
            {picked.size > 0 && (
              <Button
                small
                busy={applying.isPending}
                onClick={() => applying.mutate({ outcomes: [], results: [...picked] })}
              >
                Apply to {plural(picked.size, "post")}
              </Button>
            )}
            <Confirm
              trigger={
                <Button small look="primary" busy={applying.isPending}>
                  Apply to all {count(total)}
                </Button>
              }
              title={`${words?.head}: apply to ${plural(total, "post")}?`}
              text={`${WHAT[outcome as Applied]} It can be taken back in the list of posts, under Last changes.`}
              action="Apply"
              onConfirm={() => applying.mutate({ outcomes: [outcome as Applied], results: [] })}
            />
          </span>
        )}
      </div>
      <FormError error={applying.error} />
      {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
      {found.isPending && <Loading what="what was found" />}
      {found.data?.total === 0 && live && (
        <p className="p-6 text-center text-ink3">None so far: the comparison goes on.</p>
      )}
      {found.data?.total === 0 && !live && <Empty title="None" text={`No post ${words?.text}.`} />}
      <ul aria-label={words?.head}>
        {rows.map((row) => (
          <ReplayRow
            key={row.id}
            blog={blog}
            slug={slug}
            replay={replay.id}
            row={row}
            picked={picked.has(row.id)}
            onPick={
              acts && editor
                ? (on) =>
                    setPicked(new Set(on ? [...picked, row.id] : [...picked].filter((one) => one !== row.id)))
                : null
            }
          />
        ))}
      </ul>
      {found.data && <Paging offset={offset} size={PAGE} total={found.data.total} onChange={setOffset} />}
    </section>
  );
}
