import { memo } from "react";
import type { WordListRow } from "@/api/blogs";
import type { SiftRule } from "@/api/campaigns";
import { faultAt, type Schemas } from "@/api/client";
import { same } from "@/lib/editing/edits";
import { plural } from "@/lib/format";
import { moved, nameOf, withCopy, withEntry } from "@/lib/rules";
import { WordSelect } from "@/ui/WordSelect";
import { Effect } from "../rules/Effect";
import { MoveButtons } from "../rules/MoveButtons";
import { RuleCard } from "../rules/RuleCard";
import { SiftSentence } from "../rules/sift/SiftSentence";
import type { Change } from "../useBench";

/** Days without a match after which a rule is called idle. */
const IDLE_DAYS = 7;
const FAILING = [
  { value: "refuse", label: "refuses" },
  { value: "hold", label: "holds for review" },
] as const;

/** Kinds whose sentence shows the place of the fault itself. */
const SHOWS_ITS_FAULTS: ReadonlySet<string> = new Set(["query", "pattern", "group"]);

interface SiftRuleCardProps {
  rule: SiftRule;
  saved: SiftRule | undefined;
  /** Its place among the rules, and how many there are. */
  index: number;
  count: number;
  /** Whether the saved rules have it at another place. */
  moved: boolean;
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

/** One filter rule, memoised, because a campaign can have fifty and a key press changes one. */
export const SiftRuleCard = memo(function SiftRuleCard(props: SiftRuleCardProps) {
  const { rule, saved, change } = props;

  function setRules(next: (rules: readonly SiftRule[]) => SiftRule[]) {
    change((document) => ({ ...document, sift: { rules: next(document.sift.rules) } }));
  }
  const set = (next: SiftRule | null) => setRules((rules) => withEntry(rules, rule.id, next));

  return (
    <RuleCard
      name={`rule ${nameOf(rule)}`}
      rule={rule.id}
      title={rule.title}
      fault={
        SHOWS_ITS_FAULTS.has(rule.kind) ? undefined : faultAt(props.error, `sift.rules.${props.index}`, true)
      }
      edited={props.moved || !same(rule, saved)}
      on={rule.on}
      onTitle={(title) => set({ ...rule, title })}
      onCopy={() => setRules((rules) => withCopy(rules, rule.id))}
      onToggle={() => set({ ...rule, on: !rule.on })}
      onRemove={() => set(null)}
      handles={
        <MoveButtons
          name={`rule ${nameOf(rule)}`}
          index={props.index}
          count={props.count}
          onMove={(to) => setRules((rules) => moved(rules, props.index, to))}
        />
      }
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
