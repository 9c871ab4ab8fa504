import { useQuery } from "@tanstack/react-query";
import { blogQuery, type WordListRow } from "@/api/blogs";
import { hasMoved, newSiftRule } from "@/lib/rules";
import { SIFT_KINDS } from "@/lib/sift-kinds";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import type { BenchState } from "../useBench";
import { SiftRuleCard } from "./SiftRuleCard";

export function AddSiftRule({ bench }: { bench: BenchState }) {
  return (
    <span className="ml-auto">
      <Menu
        trigger={<Button small>Add rule</Button>}
        entries={SIFT_KINDS.map(({ kind, label, hint }) => ({
          label,
          hint,
          onSelect: () =>
            bench.change((document) => ({
              ...document,
              sift: { rules: [...document.sift.rules, newSiftRule(kind, document.sift.rules)] },
            })),
        }))}
      />
    </span>
  );
}

const NO_LISTS: readonly WordListRow[] = [];

export function SiftPanel({ blog, bench }: { blog: string; bench: BenchState }) {
  const lists = useQuery(blogQuery(blog)).data?.word_lists ?? NO_LISTS;
  const { rules } = bench.document.sift;
  const proof = bench.proof.data;
  if (!rules.length) {
    return <p className="p-4 text-center text-ink3">No rule yet: every item passes. Add one above.</p>;
  }
  return rules.map((rule, index) => (
    <SiftRuleCard
      key={rule.id}
      rule={rule}
      saved={bench.saved.sift.rules.find((other) => other.id === rule.id)}
      index={index}
      count={rules.length}
      moved={hasMoved(rules, bench.saved.sift.rules, index)}
      lists={lists}
      change={bench.change}
      error={bench.proof.error}
      effect={proof?.rules[`sift.${rule.id}`]}
      of={proof?.items.length ?? 0}
      idle={proof?.idle[`sift.${rule.id}`]}
    />
  ));
}
