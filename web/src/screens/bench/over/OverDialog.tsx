import { useQuery } from "@tanstack/react-query";
import { type Campaign, revisionsQuery } from "@/api/campaigns";
import { chosenSourcesQuery } from "@/api/sources";
import { plural } from "@/lib/format";
import { Dialog } from "@/ui/Dialog";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { type BenchState, USUAL_OVER } from "../useBench";
import { Samples } from "./Samples";

interface OverDialogProps {
  blog: string;
  campaign: Campaign;
  bench: BenchState;
  onClose: () => void;
}

/** The items of the proof, and the revision to compare with. */
export function OverDialog({ blog, campaign, bench, onClose }: OverDialogProps) {
  const { sources, labels } = bench.document.gather;
  const mine = useQuery(chosenSourcesQuery(blog, sources, labels)).data?.rows ?? [];
  const revisions = useQuery(revisionsQuery(blog, campaign.slug)).data?.rows ?? [];
  const { over } = bench;
  const picked = over.items?.length ?? 0;
  const named = [
    { value: "-", label: "all sources" },
    ...mine.map((source) => ({ value: source.key, label: source.title })),
  ];
  const comparable = revisions.map((revision) => ({
    value: String(revision.number),
    label: `revision ${revision.number}${revision.number === campaign.revision ? " (saved)" : ""}${revision.note ? `: ${revision.note}` : ""}`,
  }));
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Items of the proof"
      description="A proof shows what these rules would do with captured items. It writes nothing."
    >
      <div className="space-y-4 leading-loose">
        {(over.sample || picked > 0) && (
          <p className="rounded-md bg-plum-wash px-3 py-1.5 leading-normal text-plum">
            The proof is on {over.sample ? "a sample" : plural(picked, "picked item")} now.{" "}
            <button
              type="button"
              className="font-semibold underline"
              onClick={() => bench.setOver(USUAL_OVER)}
            >
              Back to the last {USUAL_OVER.days} days
            </button>
          </p>
        )}
        <section aria-label="Captured items">
          <h3 className="text-sm">Captured items</h3>
          Items of the last{" "}
          <WordNumber
            label="Days"
            value={over.days}
            max={365}
            onChange={(days) => bench.setOver({ ...USUAL_OVER, source: over.source, days })}
          />{" "}
          days, of{" "}
          <WordSelect
            label="Source"
            value={over.source || "-"}
            options={named}
            onChange={(key) =>
              bench.setOver({ ...USUAL_OVER, days: over.days, source: key === "-" ? "" : key })
            }
          />
          <p className="text-xs leading-normal text-ink3">
            Or pick single items in the list: with the box beside an item, or with the x key.
          </p>
        </section>
        <Samples
          blog={blog}
          chosen={over.sample ?? null}
          onChoose={(sample) => bench.setOver(sample === null ? USUAL_OVER : { ...USUAL_OVER, sample })}
        />
        <section aria-label="Comparison">
          <h3 className="text-sm">Comparison</h3>
          Compare with{" "}
          <WordSelect
            label="Revision"
            value={String(bench.against ?? campaign.revision)}
            options={comparable}
            onChange={(number) =>
              bench.setAgainst(Number(number) === campaign.revision ? null : Number(number))
            }
          />
        </section>
      </div>
    </Dialog>
  );
}
