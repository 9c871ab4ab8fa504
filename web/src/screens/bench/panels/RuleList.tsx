import type { ReactNode } from "react";
import { same } from "@/lib/editing/edits";
import { hasMoved, moved, nameOf, withCopy, withEntry } from "@/lib/rules";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { MoveButtons } from "../rules/MoveButtons";
import { RuleCard } from "../rules/RuleCard";

interface Rule {
  id: string;
  title: string;
  on: boolean;
}

interface RuleListProps<T extends Rule, K extends string> {
  /** What the list is called, and one entry of it: “Tag rules”, “tag rule”. */
  label: string;
  one: string;
  add: string;
  rules: readonly T[];
  saved: readonly T[];
  kinds: readonly { kind: K; label: string; hint: string }[];
  make: (kind: K) => T;
  footer?: (rule: T) => ReactNode;
  /** The fault of the rule at a position. */
  faultOf?: (index: number) => string | undefined;
  /** Whether the sentence itself names the entry. */
  isNamed?: boolean;
  sentence: (rule: T, change: (rule: T) => void, index: number) => ReactNode;
  onChange: (rules: T[]) => void;
}

/** A list of rules: added, moved, switched off, removed. */
export function RuleList<T extends Rule, K extends string>(props: RuleListProps<T, K>) {
  const { label, rules, saved, onChange } = props;
  return (
    <>
      {rules.length > 0 && (
        <ol className="space-y-2" aria-label={label}>
          {rules.map((rule, index) => {
            const set = (next: T | null) => onChange(withEntry(rules, rule.id, next));
            const before = saved.find((other) => other.id === rule.id);
            return (
              <li key={rule.id}>
                <RuleCard
                  name={`${props.one} ${nameOf(rule)}`}
                  rule={rule.id}
                  title={rule.title}
                  fault={props.faultOf?.(index)}
                  edited={!same(rule, before) || hasMoved(rules, saved, index)}
                  on={rule.on}
                  onTitle={props.isNamed ? undefined : (title) => set({ ...rule, title })}
                  onCopy={() => onChange(withCopy(rules, rule.id))}
                  onToggle={() => set({ ...rule, on: !rule.on })}
                  onRemove={() => set(null)}
                  handles={
                    <MoveButtons
                      name={`${props.one} ${nameOf(rule)}`}
                      index={index}
                      count={rules.length}
                      onMove={(to) => onChange(moved(rules, index, to))}
                    />
                  }
                  footer={props.footer?.(rule)}
                >
                  {props.sentence(rule, (next) => set(next), index)}
                </RuleCard>
              </li>
            );
          })}
        </ol>
      )}
      <Menu
        trigger={<Button small>{props.add}</Button>}
        entries={props.kinds.map(({ kind, label: name, hint }) => ({
          label: name,
          hint,
          onSelect: () => onChange([...rules, props.make(kind)]),
        }))}
      />
    </>
  );
}
