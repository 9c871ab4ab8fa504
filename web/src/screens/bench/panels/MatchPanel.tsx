import type { CampaignDocument, MatchRule } from "@/api/campaigns";
import { same } from "@/lib/edits";
import { withEntry } from "@/lib/rules";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { Effect } from "../rules/Effect";
import { RuleCard } from "../rules/RuleCard";
import type { BenchState } from "../useBench";

const SCOPES = [
  { value: "campaign", label: "this campaign" },
  { value: "blog", label: "this blog" },
  { value: "everything", label: "every blog" },
] as const;
const OUTCOMES = [
  { value: "refuse", label: "is refused" },
  { value: "hold", label: "is held for review" },
] as const;

function Sentence({ rule, onChange }: { rule: MatchRule; onChange: (rule: MatchRule) => void }) {
  switch (rule.kind) {
    case "identity":
      return (
        <>
          <span className="font-medium">Same identity</span>: the same entry of the same feed
        </>
      );
    case "link":
      return (
        <>
          <span className="font-medium">Same link</span>, after tracking parameters, www and the like are
          taken off
        </>
      );
    case "title":
      return (
        <>
          <span className="font-medium">Same title</span>, when it has at least{" "}
          <WordNumber
            label="Words in the title"
            value={rule.at_least_words}
            max={50}
            onChange={(at_least_words) => onChange({ ...rule, at_least_words })}
          />{" "}
          words
        </>
      );
  }
}

export function MatchPanel({ bench }: { bench: BenchState }) {
  const { match } = bench.document;
  const saved = bench.saved.match;
  const all = bench.proof.data?.items.length ?? 0;

  function set(next: Partial<CampaignDocument["match"]>) {
    bench.change((document) => ({ ...document, match: { ...document.match, ...next } }));
  }

  return (
    <>
      <RuleCard
        name="Scope"
        edited={
          !same(
            [match.against, match.on_match, match.within_days],
            [saved.against, saved.on_match, saved.within_days],
          )
        }
      >
        What is on{" "}
        <WordSelect
          label="Scope"
          value={match.against}
          options={SCOPES}
          onChange={(against) => set({ against })}
        />{" "}
        already{" "}
        <WordSelect
          label="What happens"
          value={match.on_match}
          options={OUTCOMES}
          onChange={(on_match) => set({ on_match })}
        />
        , looking at posts of{" "}
        <OptionalNumber
          label="Days"
          value={match.within_days ?? null}
          none="all time"
          usual={60}
          max={3650}
          unit="days"
          onChange={(within_days) => set({ within_days })}
        />
      </RuleCard>
      {match.rules.map((rule) => {
        const replace = (next: MatchRule) => set({ rules: withEntry(match.rules, rule.id, next) });
        return (
          <RuleCard
            key={rule.id}
            name={`Rule ${rule.id}`}
            edited={
              !same(
                rule,
                saved.rules.find((other) => other.id === rule.id),
              )
            }
            on={rule.on}
            onToggle={() => replace({ ...rule, on: !rule.on })}
            footer={
              <Effect
                verb="finds"
                effect={bench.proof.data?.rules[`match.${rule.id}`]}
                of={all}
                bar="bg-indigo"
              />
            }
          >
            <Sentence rule={rule} onChange={replace} />
          </RuleCard>
        );
      })}
    </>
  );
}
