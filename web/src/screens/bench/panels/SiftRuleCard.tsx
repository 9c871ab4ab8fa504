import { memo } from "react";
import type { WordListRow } from "@/api/blogs";
import type { SiftRule } from "@/api/campaigns";
import { faultAt, type Schemas } from "@/api/client";
import { same } from "@/lib/edits";
import { plural } from "@/lib/format";
import { withEntry } from "@/lib/rules";
import { WordSelect } from "@/ui/WordSelect";
import { Effect } from "../rules/Effect";
import { RuleCard } from "../rules/RuleCard";
import { SiftSentence } from "../rules/sift/SiftSentence";
import type { Change } from "../useBench";

/** Days without a match after which a rule is called idle. */
const IDLE_DAYS = 7;
const FAILING = [
  { value: "refuse", label: "refuses" },
  { value: "hold", label: "holds for review" },
] as const;

/** Kinds whose sentence says itself where the fault is. */
const SHOWS_ITS_FAULTS: ReadonlySet<string> = new Set(["query", "pattern", "group"]);

interface SiftRuleCardProps {
  rule: SiftRule;
  saved: SiftRule | undefined;
  index: number;
  lists: readonly WordListRow[];
  change: Change;
  error: Error | null;
  effect: Schemas["RuleEffectOut"] | undefined;
  /** Items in the proof. */
  of: number;
  /** Days since the rule last matched an item, where that is known. */
  idle: number | undefined;
}

function idleWords(days: number | undefined): string {
  return days !== undefined && days >= IDLE_DAYS ? `idle for ${plural(days, "day")}` : "";
}

/** One filter rule. A campaign can have fifty, and each key press changes one: the others are not drawn again. */
export const SiftRuleCard = memo(function SiftRuleCard(props: SiftRuleCardProps) {
  const { rule, saved, change } = props;

  function set(next: SiftRule | null) {
    change((document) => ({
      ...document,
      sift: { rules: withEntry(document.sift.rules, rule.id, next) },
    }));
  }

  return (
    <RuleCard
      name={`Rule ${rule.id}`}
      rule={rule.id}
      fault={
        SHOWS_ITS_FAULTS.has(rule.kind) ? undefined : faultAt(props.error, `sift.rules.${props.index}`, true)
      }
      edited={!same(rule, saved)}
      on={rule.on}
      onToggle={() => set({ ...rule, on: !rule.on })}
      onRemove={() => set(null)}
      footer={
        <>
          <WordSelect
            label="What happens to an item that fails"
            value={rule.failing}
            options={FAILING}
            onChange={(failing) => set({ ...rule, failing })}
          />
          <Effect
            verb=""
            effect={props.effect}
            of={props.of}
            bar={rule.failing === "hold" ? "bg-ochre-mark" : "bg-madder"}
            note={idleWords(props.idle)}
          />
        </>
      }
    >
      <SiftSentence
        rule={rule}
        saved={saved}
        lists={props.lists}
        faultOf={(path) => faultAt(props.error, path)}
        path={`sift.rules.${props.index}`}
        onChange={set}
      />
    </RuleCard>
  );
});
