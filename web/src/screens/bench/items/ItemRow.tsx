import clsx from "clsx";
import { Check } from "lucide-react";
import { memo } from "react";
import type { ProofRow } from "@/api/proofs";
import { Reason } from "@/components/Reason";
import { ago, count, moment } from "@/lib/format";
import { changeWords } from "@/lib/proof-changes";
import { VERDICT_WORDS } from "@/lib/wording";
import { Lozenge } from "@/ui/Lozenge";
import { ITEM_GRID } from "./ItemHeads";

interface ItemRowProps {
  row: ProofRow;
  /** Its position and the total, because only visible rows are rendered. */
  place: number;
  of: number;
  chosen: boolean;
  picked: boolean;
  /** Whether any item is picked; then every row shows its box. */
  picking: boolean;
  onChoose: (item: number) => void;
  onPick: (item: number) => void;
}

/** An item of the proof: its outcome, its reason, and the effect of an edit. */
export const ItemRow = memo(function ItemRow(props: ItemRowProps) {
  const { row, chosen, picked, picking, onChoose, onPick } = props;
  const change = changeWords(row);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list box around it takes the keys
    <div
      id={`item-${row.id}`}
      role="option"
      aria-posinset={props.place}
      aria-setsize={props.of}
      aria-selected={chosen}
      aria-checked={picking ? picked : undefined}
      tabIndex={-1}
      onClick={() => onChoose(row.id)}
      className={clsx(
        ITEM_GRID,
        "group h-full w-full cursor-default items-start border-b border-line2 py-1.5",
        chosen ? "bg-verd-wash" : "hover:bg-chalk",
      )}
    >
      <span className="mt-1 flex flex-col items-center gap-1.5">
        <Lozenge kind={row.verdict} label={VERDICT_WORDS[row.verdict]} />
        {/* For the mouse; the list box picks by the key x, and the option says whether it is picked. */}
        <span
          aria-hidden="true"
          data-pick
          title="Pick it for a proof of its own (x)"
          className={clsx(
            "flex size-3 items-center justify-center rounded-[3px] border",
            picked ? "border-verd bg-verd text-on-verd" : "border-ink3 bg-sheet",
            !picking && "opacity-0 group-hover:opacity-100",
          )}
          onClick={(event) => {
            event.stopPropagation();
            onPick(row.id);
          }}
        >
          {picked && <Check size={10} strokeWidth={3} />}
        </span>
      </span>
      <span className="min-w-0">
        <span className="block truncate font-medium">{row.title || "(no title)"}</span>
        <span className="block truncate text-[11.5px] text-ink3">
          {row.source} ·{" "}
          {change ? (
            <em className="font-semibold text-plum not-italic">{change}</em>
          ) : (
            <Reason verdict={row.verdict} reason={row.reason} />
          )}
        </span>
      </span>
      <span className="hidden text-[11.5px] leading-[1.45] text-ink2 @md:block">
        <span className="line-clamp-2">{row.categories.join(", ")}</span>
      </span>
      <span className="text-right text-[11.5px] text-ink3" title={`published ${moment(row.dated)}`}>
        {ago(row.dated)}
      </span>
      <span className="text-right text-[11.5px] text-ink3" title="words">
        {count(row.words)}
      </span>
    </div>
  );
});
