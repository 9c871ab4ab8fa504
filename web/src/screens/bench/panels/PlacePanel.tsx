import { useQuery } from "@tanstack/react-query";
import { blogQuery } from "@/api/blogs";
import type { CampaignDocument } from "@/api/campaigns";
import { faultAt } from "@/api/client";
import { seenCategoriesQuery } from "@/api/sources";
import { same } from "@/lib/editing/edits";
import { WordNumber } from "@/ui/WordNumber";
import { WordText } from "@/ui/WordText";
import { BylineSentence } from "../rules/place/BylineSentence";
import { CategorySentence } from "../rules/place/CategorySentence";
import { DateSentence } from "../rules/place/DateSentence";
import { CATEGORY_KINDS, newCategoryRule } from "../rules/place/kinds";
import { PlaceEffect } from "../rules/place/PlaceEffect";
import { PostSettings } from "../rules/place/PostSettings";
import { RuleCard } from "../rules/RuleCard";
import type { BenchState } from "../useBench";
import { RuleList } from "./RuleList";
import { TagCards } from "./TagCards";

type Place = CampaignDocument["place"];

const STANDING = [
  "kind",
  "visibility",
  "pass_phrase",
  "language",
  "canonical",
  "comments",
  "pinned",
] as const;

export function PlacePanel({ blog, bench }: { blog: string; bench: BenchState }) {
  const names = useQuery(blogQuery(blog)).data;
  const { place, gather } = bench.document;
  const seen = useQuery(seenCategoriesQuery(blog, gather.sources, gather.labels)).data ?? [];
  const saved = bench.saved.place;
  const differs = (...keys: (keyof Place)[]) => keys.some((key) => !same(place[key], saved[key]));

  function set(next: Partial<Place>) {
    bench.change((document) => ({ ...document, place: { ...document.place, ...next } }));
  }

  return (
    <>
      <RuleCard name="Category" edited={differs("category", "at_most_categories")}>
        <span className="font-medium">Category</span>{" "}
        <WordText
          label="Category"
          value={place.category}
          known={names?.categories ?? []}
          placeholder="none"
          onChange={(category) => set({ category })}
        />
        {place.category_rules.length > 0 && (
          <>
            , unless a rule below finds others; at most{" "}
            <WordNumber
              label="Categories"
              value={place.at_most_categories}
              max={20}
              onChange={(at_most_categories) => set({ at_most_categories })}
            />
          </>
        )}
      </RuleCard>
      <RuleList
        label="Category rules"
        one="category rule"
        add="Add a category rule"
        rules={place.category_rules}
        faultOf={(index) => faultAt(bench.proof.error, `place.category_rules.${index}`, true)}
        saved={saved.category_rules}
        kinds={CATEGORY_KINDS}
        make={(kind) => newCategoryRule(kind, place.category_rules)}
        onChange={(category_rules) => set({ category_rules })}
        footer={(rule) => <PlaceEffect bench={bench} rule={rule.id} />}
        sentence={(rule, change) => (
          <CategorySentence
            rule={rule}
            known={names?.categories ?? []}
            lists={names?.word_lists ?? []}
            seen={seen}
            onChange={change}
          />
        )}
      />
      <TagCards bench={bench} lists={names?.word_lists ?? []} onChange={set} />
      <RuleCard name="Byline" edited={differs("byline", "byline_from", "byline_table")}>
        <BylineSentence place={place} known={names?.bylines ?? []} onChange={set} />
      </RuleCard>
      <RuleCard name="Date" edited={differs("date", "dates")}>
        <DateSentence
          place={place}
          scheduled={bench.document.release.mode === "scheduled"}
          onSchedule={() =>
            bench.change((document) => ({
              ...document,
              release: { ...document.release, mode: "scheduled" },
            }))
          }
          onChange={set}
        />
      </RuleCard>
      <RuleCard name="Post settings" edited={differs(...STANDING)}>
        <PostSettings place={place} onChange={set} />
      </RuleCard>
    </>
  );
}
