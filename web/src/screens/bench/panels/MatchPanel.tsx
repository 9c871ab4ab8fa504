import type { CampaignDocument, MatchRule } from "@/api/campaigns";
import { faultAt } from "@/api/client";
import { same } from "@/lib/editing/edits";
import { nameOf, withEntry } from "@/lib/rules";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordOrder } from "@/ui/WordOrder";
import { WordSelect } from "@/ui/WordSelect";
import { Effect } from "../rules/Effect";
import { MatchSentence } from "../rules/MatchSentence";
import { RuleCard } from "../rules/RuleCard";
import type { BenchState } from "../useBench";

const SCOPES = [
  { value: "campaign", label: "this campaign" },
  { value: "blog", label: "this blog" },
  { value: "everything", label: "every blog of its owners" },
] as const;
const PREFERENCES = [
  { value: "earliest", label: "the earliest" },
  { value: "longest", label: "the longest" },
  { value: "picture", label: "one with a picture" },
  { value: "source", label: "the one from the first source" },
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

const MORE_RULES = {
  product: { id: "product", kind: "product", title: "", on: true },
  media: { id: "media", kind: "media", title: "", on: true },
  keyword: { id: "keyword", kind: "keyword", title: "", on: true },
  near_text: { id: "near-text", kind: "near_text", title: "", on: true, likeness: 0.65, at_least_words: 25 },
  near_title: { id: "near-title", kind: "near_title", title: "", on: true, likeness: 0.8, at_least_words: 5 },
} as const;
const MORE_KINDS: readonly { kind: keyof typeof MORE_RULES; label: string; hint: string }[] = [
  { kind: "near_text", label: "Nearly the same text", hint: "most of the shorter one is in the longer" },
  { kind: "near_title", label: "Nearly the same title", hint: "most words, and all numbers" },
  { kind: "product", label: "Same product", hint: "by its trade number" },
  { kind: "media", label: "Same film or sound", hint: "whatever the entry around it" },
  { kind: "keyword", label: "Same keyword", hint: "one post for each" },
];

export function MatchPanel({ bench }: { bench: BenchState }) {
  const { match } = bench.document;
  const saved = bench.saved.match;
  const all = bench.proof.data?.items.length ?? 0;

  function set(next: Partial<CampaignDocument["match"]>) {
    bench.change((document) => ({ ...document, match: { ...document.match, ...next } }));
  }

  const missing = MORE_KINDS.filter(({ kind }) => !match.rules.some((rule) => rule.kind === kind));

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
        An item that is already on{" "}
        <WordSelect
          label="Scope"
          value={match.against}
          options={SCOPES}
          onChange={(against) => set({ against })}
        />{" "}
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
        Of several alike in one run, keep{" "}
        <WordOrder
          label="Which stays"
          values={match.prefer}
          options={PREFERENCES}
          none="the earliest"
          onChange={(prefer) => set({ prefer })}
        />
        . A story that a person refused{" "}
        <WordSelect
          label="Refused stories"
          value={match.let_refused_back ? "back" : "away"}
          options={REFUSED}
          onChange={(value) => set({ let_refused_back: value === "back" })}
        />
      </RuleCard>
      {match.rules.map((rule, index) => {
        const replace = (next: MatchRule) => set({ rules: withEntry(match.rules, rule.id, next) });
        return (
          <RuleCard
            key={rule.id}
            name={`rule ${nameOf(rule)}`}
            rule={rule.id}
            title={rule.title}
            fault={faultAt(bench.proof.error, `match.rules.${index}`, true)}
            edited={
              !same(
                rule,
                saved.rules.find((other) => other.id === rule.id),
              )
            }
            on={rule.on}
            onTitle={(title) => replace({ ...rule, title })}
            onToggle={() => replace({ ...rule, on: !rule.on })}
            onRemove={() => set({ rules: withEntry(match.rules, rule.id, null) })}
            footer={
              <Effect
                verb="matches"
                effect={bench.proof.data?.rules[`match.${rule.id}`]}
                of={all}
                bar="bg-indigo"
              />
            }
          >
            <MatchSentence rule={rule} onChange={replace} />
          </RuleCard>
        );
      })}
      {missing.length > 0 && (
        <Menu
          trigger={<Button small>Add a comparison</Button>}
          entries={missing.map(({ kind, label, hint }) => ({
            label,
            hint,
            onSelect: () => set({ rules: [...match.rules, MORE_RULES[kind]] }),
          }))}
        />
      )}
    </>
  );
}
