import type { CampaignDocument, MatchRule } from "@/api/campaigns";
import { same } from "@/lib/edits";
import { withEntry } from "@/lib/rules";
import { Button } from "@/ui/Button";
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
const PREFERENCES = [
  { value: "earliest", label: "the earliest" },
  { value: "longest", label: "the longest" },
  { value: "picture", label: "one with a picture" },
  { value: "source", label: "that of the first source" },
] as const;
const REFUSED = [
  { value: "away", label: "does not come back" },
  { value: "back", label: "may come back" },
] as const;
const OUTCOMES = [
  { value: "refuse", label: "is refused" },
  { value: "hold", label: "is held for review" },
  { value: "join", label: "joins the post as “also at …”" },
] as const;

const NEAR_RULES = {
  near_text: { id: "near-text", kind: "near_text", on: true, likeness: 0.65, at_least_words: 25 },
  near_title: { id: "near-title", kind: "near_title", on: true, likeness: 0.8, at_least_words: 5 },
} as const;

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
    case "near_title":
      return (
        <>
          <span className="font-medium">Nearly the same title</span>: at least{" "}
          <WordNumber
            label="Likeness of titles in per cent"
            value={Math.round(rule.likeness * 100)}
            min={50}
            max={100}
            onChange={(percent) => onChange({ ...rule, likeness: percent / 100 })}
          />{" "}
          % of the words, and all numbers
        </>
      );
    case "near_text":
      return (
        <>
          <span className="font-medium">Nearly the same text</span>: at least{" "}
          <WordNumber
            label="Likeness of texts in per cent"
            value={Math.round(rule.likeness * 100)}
            min={20}
            max={100}
            onChange={(percent) => onChange({ ...rule, likeness: percent / 100 })}
          />{" "}
          % of the shorter one is in the longer, with its names and numbers
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

  const missing = (["near_text", "near_title"] as const).filter(
    (kind) => !match.rules.some((rule) => rule.kind === kind),
  );

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
      <RuleCard
        name="Preference"
        edited={!same([match.prefer, match.let_refused_back], [saved.prefer, saved.let_refused_back])}
      >
        Of several in one run{" "}
        <WordSelect
          label="Which stays"
          value={match.prefer[0] ?? "earliest"}
          options={PREFERENCES}
          onChange={(prefer) => set({ prefer: [prefer] })}
        />{" "}
        stays. A story refused by hand{" "}
        <WordSelect
          label="Refused stories"
          value={match.let_refused_back ? "back" : "away"}
          options={REFUSED}
          onChange={(value) => set({ let_refused_back: value === "back" })}
        />
      </RuleCard>
      {missing.map((kind) => (
        <Button key={kind} small onClick={() => set({ rules: [...match.rules, NEAR_RULES[kind]] })}>
          Compare {kind === "near_text" ? "texts" : "titles"} that are nearly the same
        </Button>
      ))}
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
