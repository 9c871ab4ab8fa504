import type { WordListRow } from "@/api/blogs";
import type { CampaignDocument } from "@/api/campaigns";
import { faultAt } from "@/api/client";
import { same } from "@/lib/editing/edits";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordList } from "@/ui/WordList";
import { WordSelect } from "@/ui/WordSelect";
import { ListChips } from "../rules/ListChips";
import { newTagRule, TAG_KINDS } from "../rules/place/kinds";
import { PlaceEffect } from "../rules/place/PlaceEffect";
import { TagSentence } from "../rules/place/TagSentence";
import { RuleCard } from "../rules/RuleCard";
import type { BenchState } from "../useBench";
import { RuleList } from "./RuleList";

type Place = CampaignDocument["place"];

const EXISTING = [
  { value: "any", label: "any tag" },
  { value: "known", label: "only tags that exist" },
] as const;

interface TagCardsProps {
  bench: BenchState;
  lists: readonly WordListRow[];
  onChange: (next: Partial<Place>) => void;
}

/** Tags: fixed ones, rules, and words that are never tags. */
export function TagCards({ bench, lists, onChange }: TagCardsProps) {
  const { place } = bench.document;
  const saved = bench.saved.place;
  const added = (now: readonly string[], was: readonly string[]) =>
    new Set(now.filter((one) => !was.includes(one)));
  return (
    <>
      <RuleCard name="Tags" edited={!same(place.tags, saved.tags)}>
        <span className="font-medium">Tags</span>{" "}
        <WordList
          label="Tags"
          values={place.tags}
          added={added(place.tags, saved.tags)}
          onChange={(tags) => onChange({ tags })}
        />
      </RuleCard>
      <RuleList
        label="Tag rules"
        one="tag rule"
        add="Add a tag rule"
        rules={place.tag_rules}
        saved={saved.tag_rules}
        kinds={TAG_KINDS}
        make={(kind) => newTagRule(kind, place.tag_rules)}
        onChange={(tag_rules) => onChange({ tag_rules })}
        faultOf={(index) => faultAt(bench.proof.error, `place.tag_rules.${index}`, true)}
        footer={(rule) => <PlaceEffect bench={bench} rule={rule.id} />}
        sentence={(rule, change) => <TagSentence rule={rule} onChange={change} />}
      />
      {place.tag_rules.length > 0 && (
        <RuleCard
          name="Limits of tags"
          edited={
            !same(
              [place.remove_tags, place.remove_lists, place.only_existing_tags, place.at_most_tags],
              [saved.remove_tags, saved.remove_lists, saved.only_existing_tags, saved.at_most_tags],
            )
          }
        >
          These rules may give{" "}
          <WordSelect
            label="Which tags"
            value={place.only_existing_tags ? "known" : "any"}
            options={EXISTING}
            onChange={(which) => onChange({ only_existing_tags: which === "known" })}
          />
          ,{" "}
          <OptionalNumber
            label="Tags at most"
            value={place.at_most_tags ?? null}
            none="however many"
            usual={6}
            max={50}
            unit="at most"
            onChange={(at_most_tags) => onChange({ at_most_tags })}
          />
          , but never{" "}
          <WordList
            label="Removed tags"
            values={place.remove_tags}
            added={added(place.remove_tags, saved.remove_tags)}
            onChange={(remove_tags) => onChange({ remove_tags })}
          />{" "}
          <ListChips
            lists={lists}
            chosen={place.remove_lists}
            mayBeEmpty
            onChange={(remove_lists) => onChange({ remove_lists })}
          />
        </RuleCard>
      )}
    </>
  );
}
