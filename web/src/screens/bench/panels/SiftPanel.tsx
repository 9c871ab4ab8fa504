import { useQuery } from "@tanstack/react-query";
import { blogQuery } from "@/api/blogs";
import type { SiftRule } from "@/api/campaigns";
import { faultAt } from "@/api/client";
import { same } from "@/lib/edits";
import { plural } from "@/lib/format";
import { newSiftRule, withEntry } from "@/lib/rules";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { WordSelect } from "@/ui/WordSelect";
import { Effect } from "../rules/Effect";
import { RuleCard } from "../rules/RuleCard";
import { SIFT_KINDS } from "../rules/sift/kinds";
import { SiftSentence } from "../rules/sift/SiftSentence";
import type { BenchState } from "../useBench";

const IDLE_DAYS = 7;
const FAILING = [
  { value: "refuse", label: "refuses" },
  { value: "hold", label: "holds for review" },
] as const;

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

function idleWords(days: number | undefined): string {
  return days !== undefined && days >= IDLE_DAYS ? `idle for ${plural(days, "day")}` : "";
}

export function SiftPanel({ blog, bench }: { blog: string; bench: BenchState }) {
  const lists = useQuery(blogQuery(blog)).data?.word_lists ?? [];
  const { rules } = bench.document.sift;
  const all = bench.proof.data?.items.length ?? 0;

  function set(id: string, next: SiftRule | null) {
    bench.change((document) => ({ ...document, sift: { rules: withEntry(document.sift.rules, id, next) } }));
  }

  if (!rules.length) {
    return <p className="p-4 text-center text-ink3">No rule yet: every item passes. Add one above.</p>;
  }
  return rules.map((rule, index) => {
    const saved = bench.saved.sift.rules.find((other) => other.id === rule.id);
    return (
      <RuleCard
        key={rule.id}
        name={`Rule ${rule.id}`}
        edited={!same(rule, saved)}
        on={rule.on}
        onToggle={() => set(rule.id, { ...rule, on: !rule.on })}
        onRemove={() => set(rule.id, null)}
        footer={
          <>
            <WordSelect
              label="What happens to an item that fails"
              value={rule.failing}
              options={FAILING}
              onChange={(failing) => set(rule.id, { ...rule, failing })}
            />
            <Effect
              verb=""
              effect={bench.proof.data?.rules[`sift.${rule.id}`]}
              of={all}
              bar={rule.failing === "hold" ? "bg-ochre-mark" : "bg-madder"}
              note={idleWords(bench.proof.data?.idle[`sift.${rule.id}`])}
            />
          </>
        }
      >
        <SiftSentence
          rule={rule}
          saved={saved}
          lists={lists}
          faultOf={(path) => faultAt(bench.proof.error, path)}
          path={`sift.rules.${index}`}
          onChange={(next) => set(rule.id, next)}
        />
      </RuleCard>
    );
  });
}
