import type { CampaignDocument } from "@/api/campaigns";
import { faultAt } from "@/api/client";
import { ModeChoice } from "@/components/ModeChoice";
import { same } from "@/lib/editing/edits";
import { WordSelect } from "@/ui/WordSelect";
import { Effect } from "../rules/Effect";
import { RuleCard } from "../rules/RuleCard";
import { EditionsSentence } from "../rules/release/EditionsSentence";
import { HoldSentence } from "../rules/release/HoldSentence";
import { HOLD_KINDS, newHoldRule } from "../rules/release/kinds";
import { PaceSentence } from "../rules/release/PaceSentence";
import type { BenchState } from "../useBench";
import { RuleList } from "./RuleList";

type Release = CampaignDocument["release"];

const CORRECTIONS = [
  { value: "show", label: "is shown to you with the differences" },
  { value: "follow", label: "follows as well" },
  { value: "leave", label: "stays as it is" },
] as const;

const GOODS = [
  { value: "keep", label: "stays as it is" },
  { value: "mark", label: "says so" },
  { value: "hold", label: "is held for you" },
  { value: "take_down", label: "goes into the bin" },
] as const;

export function ReleasePanel({ blog, bench }: { blog: string; bench: BenchState }) {
  const { release } = bench.document;
  const saved = bench.saved.release;
  const all = bench.proof.data?.items.length ?? 0;
  const set = (next: Partial<Release>) =>
    bench.change((document) => ({ ...document, release: { ...document.release, ...next } }));
  return (
    <>
      <ModeChoice stacked value={release.mode} onChange={(mode) => set({ mode })} />
      <RuleList
        label="Conditions"
        one="condition"
        add="Hold when …"
        rules={release.hold_when}
        saved={saved.hold_when}
        kinds={HOLD_KINDS}
        make={(kind) => newHoldRule(kind, release.hold_when)}
        onChange={(hold_when) => set({ hold_when })}
        faultOf={(index) => faultAt(bench.proof.error, `release.hold_when.${index}`, true)}
        footer={(rule) => (
          <Effect
            verb="holds"
            effect={bench.proof.data?.rules[`release.${rule.id}`]}
            of={all}
            bar="bg-ochre-mark"
          />
        )}
        sentence={(rule, change) => <HoldSentence rule={rule} onChange={change} />}
      />
      <RuleCard
        name="Pace"
        edited={
          !same([release.pace, release.at_most, release.order], [saved.pace, saved.at_most, saved.order])
        }
      >
        <PaceSentence release={release} onChange={set} />
      </RuleCard>
      <RuleCard
        name="Editions"
        edited={!same([release.editions, release.together], [saved.editions, saved.together])}
        fault={faultAt(bench.proof.error, "release.editions", true)}
      >
        <EditionsSentence blog={blog} release={release} onChange={set} />
      </RuleCard>
      <RuleCard name="Corrections" edited={release.corrections !== saved.corrections}>
        When its source corrects an item, a post that is not out follows; a published one{" "}
        <WordSelect
          label="Corrections of published posts"
          value={release.corrections}
          options={CORRECTIONS}
          onChange={(corrections) => set({ corrections })}
        />
      </RuleCard>
      <RuleCard
        name="Goods"
        edited={release.withdrawn !== saved.withdrawn || release.sold_out !== saved.sold_out}
      >
        Where a shop no longer sells a product, its post{" "}
        <WordSelect
          label="Posts about products that are no longer sold"
          value={release.withdrawn}
          options={GOODS}
          onChange={(withdrawn) => set({ withdrawn })}
        />
        ; where it is sold out, the post{" "}
        <WordSelect
          label="Posts about products that are sold out"
          value={release.sold_out}
          options={GOODS}
          onChange={(sold_out) => set({ sold_out })}
        />
      </RuleCard>
    </>
  );
}
