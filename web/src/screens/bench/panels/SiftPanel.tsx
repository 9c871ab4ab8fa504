import type { SiftRule } from "@/api/campaigns";
import { same } from "@/lib/edits";
import { newSiftRule, type SiftKind, withEntry } from "@/lib/rules";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { WordSelect } from "@/ui/WordSelect";
import { AgeSentence } from "../rules/AgeSentence";
import { Effect } from "../rules/Effect";
import { RuleCard } from "../rules/RuleCard";
import { TermsSentence } from "../rules/TermsSentence";
import { WordsSentence } from "../rules/WordsSentence";
import type { BenchState } from "../useBench";

const FAILING = [
  { value: "refuse", label: "refuses" },
  { value: "hold", label: "holds for review" },
] as const;

const KINDS: readonly { kind: SiftKind; label: string; hint: string }[] = [
  { kind: "terms", label: "Words and phrases", hint: "has any, all or none of them" },
  { kind: "words", label: "Word count", hint: "at least, at most, between" },
  { kind: "age", label: "Age", hint: "published within so many hours or days" },
];

export function AddSiftRule({ bench }: { bench: BenchState }) {
  return (
    <span className="ml-auto">
      <Menu
        trigger={<Button small>Add rule</Button>}
        entries={KINDS.map(({ kind, label, hint }) => ({
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

interface SentenceProps {
  rule: SiftRule;
  saved: SiftRule | undefined;
  onChange: (rule: SiftRule) => void;
}

function Sentence({ rule, saved, onChange }: SentenceProps) {
  switch (rule.kind) {
    case "terms":
      return (
        <TermsSentence rule={rule} saved={saved?.kind === "terms" ? saved : undefined} onChange={onChange} />
      );
    case "words":
      return <WordsSentence rule={rule} onChange={onChange} />;
    case "age":
      return <AgeSentence rule={rule} onChange={onChange} />;
  }
}

export function SiftPanel({ bench }: { bench: BenchState }) {
  const { rules } = bench.document.sift;
  const all = bench.proof.data?.items.length ?? 0;

  function set(id: string, next: SiftRule | null) {
    bench.change((document) => ({ ...document, sift: { rules: withEntry(document.sift.rules, id, next) } }));
  }

  if (!rules.length) {
    return <p className="p-4 text-center text-ink3">No rule yet: every item passes. Add one above.</p>;
  }
  return rules.map((rule) => {
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
            />
          </>
        }
      >
        <Sentence rule={rule} saved={saved} onChange={(next) => set(rule.id, next)} />
      </RuleCard>
    );
  });
}
