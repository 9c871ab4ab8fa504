import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, useRef } from "react";
import type { CampaignDocument } from "@/api/campaigns";
import type { Proof, ProofRow, Stage } from "@/api/proofs";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { SearchBox } from "@/components/SearchBox";
import { plural } from "@/lib/format";
import { STAGE_NAMES } from "@/lib/wording";
import { Button } from "@/ui/Button";
import { Segmented } from "@/ui/Segmented";
import { WordSelect } from "@/ui/WordSelect";
import { ProofFault } from "../ProofFault";
import { ItemHeads } from "./ItemHeads";
import { ItemRow } from "./ItemRow";
import { type ItemFilter, type ItemSort, isKept, leftAt } from "./shown-items";

interface ItemListProps {
  proof: Proof | undefined;
  error: Error | null;
  document: CampaignDocument;
  onShowFault: (stage: Stage, rule: string | null) => void;
  onRetry: () => void;
  items: readonly ProofRow[];
  stage: Stage;
  filter: ItemFilter;
  onFilter: (filter: ItemFilter) => void;
  search: string;
  onSearch: (search: string) => void;
  source: string;
  onSource: (source: string) => void;
  sort: ItemSort | null;
  onSort: (sort: ItemSort | null) => void;
  chosen: number | null;
  onChoose: (item: number) => void;
  picked: ReadonlySet<number>;
  onPick: (item: number) => void;
  onProvePicked: () => void;
}

const ROW = 49;
/** Stands for all sources, because a choice has no empty value. */
const EVERY = "-every-";

export function ItemList(props: ItemListProps) {
  const { proof, items, stage, filter, chosen, onChoose } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const all = proof?.items ?? [];
  const changed = all.filter((row) => row.was).length;
  const sources = [...new Set([...all.map((row) => row.source), props.source])].filter(Boolean).sort();

  function onKey(event: KeyboardEvent) {
    if (event.key === "x" && chosen !== null) {
      event.preventDefault();
      props.onPick(chosen);
      return;
    }
    const by = { ArrowDown: 1, j: 1, ArrowUp: -1, k: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    const at = items.findIndex((row) => row.id === chosen);
    const next = items[Math.min(items.length - 1, Math.max(0, at + by))];
    if (!next) return;
    onChoose(next.id);
    rows.scrollToIndex(items.indexOf(next));
  }

  return (
    <section
      aria-label="Items of the proof"
      className="@container flex max-h-[80vh] min-h-[320px] min-w-0 flex-col border-r border-line bg-sheet lg:max-h-none"
    >
      <h2 className="sr-only">Items</h2>
      <div className="flex min-h-[42px] shrink-0 flex-wrap items-center gap-2 border-b border-line px-3.5 py-1">
        <Segmented<ItemFilter>
          label="Which items"
          value={filter}
          onChange={props.onFilter}
          options={[
            { value: "all", label: `All ${all.length}` },
            { value: "kept", label: `Kept ${all.filter(isKept).length}` },
            {
              value: "left",
              label: `${stage === "release" ? "Not published yet" : `Left at ${STAGE_NAMES[stage]}`} ${all.filter((row) => leftAt(row, stage)).length}`,
            },
            {
              value: "changed",
              label: `Changed ${changed}`,
              tone: changed ? "text-plum font-semibold" : "text-ink2",
            },
          ]}
        />
        <span className="ml-auto min-w-0 shrink">
          <SearchBox label="Find" value={props.search} onChange={props.onSearch} />
        </span>
      </div>
      {all.length > 0 && (
        <ItemHeads sort={props.sort} onSort={props.onSort}>
          {(sources.length > 1 || props.source !== "") && (
            <WordSelect
              label="Source"
              value={props.source || EVERY}
              options={[
                { value: EVERY, label: "every source" },
                ...sources.map((source) => ({ value: source, label: source })),
              ]}
              onChange={(source) => props.onSource(source === EVERY ? "" : source)}
            />
          )}
        </ItemHeads>
      )}
      {props.picked.size > 0 && (
        <div className="flex items-center gap-2 border-b border-line2 bg-verd-wash px-3.5 py-1">
          {plural(props.picked.size, "item")} picked
          <Button small onClick={props.onProvePicked}>
            Proof with only {props.picked.size === 1 ? "this item" : "these items"}
          </Button>
        </div>
      )}
      {props.error && !proof && <ErrorNote error={props.error} onRetry={props.onRetry} />}
      {props.error && proof && (
        <ProofFault
          error={props.error}
          document={props.document}
          onShow={props.onShowFault}
          onRetry={props.onRetry}
        />
      )}
      {!proof && !props.error && <Loading what="the proof" rows={9} />}
      {proof && all.length === 0 && (
        <Empty
          title="No captured items"
          text="Run the campaign, or add a source that has items from the last month."
        />
      )}
      {proof && all.length > 0 && items.length === 0 && (
        <p className="p-8 text-center text-ink3">
          No items in this list. Choose another list or source above.
        </p>
      )}
      <div
        ref={scroller}
        id="items"
        role="listbox"
        aria-label="Items"
        aria-activedescendant={chosen === null ? undefined : `item-${chosen}`}
        tabIndex={0}
        onKeyDown={onKey}
        className="min-h-0 flex-1 overflow-auto -outline-offset-2"
      >
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((place) => {
            const row = items[place.index];
            return (
              row && (
                <div
                  key={row.id}
                  className="absolute inset-x-0"
                  style={{ height: place.size, transform: `translateY(${place.start}px)` }}
                >
                  <ItemRow
                    row={row}
                    place={place.index + 1}
                    of={items.length}
                    chosen={row.id === chosen}
                    picked={props.picked.has(row.id)}
                    picking={props.picked.size > 0}
                    onChoose={onChoose}
                    onPick={props.onPick}
                  />
                </div>
              )
            );
          })}
        </div>
      </div>
    </section>
  );
}
