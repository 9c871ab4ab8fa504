import { useQuery } from "@tanstack/react-query";
import { blogQuery } from "@/api/blogs";
import type { CampaignDocument } from "@/api/campaigns";
import { same } from "@/lib/edits";
import { WordList } from "@/ui/WordList";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import { RuleCard } from "../rules/RuleCard";
import type { BenchState } from "../useBench";

const DATES = [
  { value: "original", label: "the item was published" },
  { value: "import", label: "of the run" },
] as const;

export function PlacePanel({ blog, bench }: { blog: string; bench: BenchState }) {
  const names = useQuery(blogQuery(blog)).data;
  const { place } = bench.document;
  const saved = bench.saved.place;

  function set(next: Partial<CampaignDocument["place"]>, join = false) {
    bench.change((document) => ({ ...document, place: { ...document.place, ...next } }), join);
  }

  return (
    <>
      <RuleCard name="Category" edited={place.category !== saved.category}>
        <span className="font-medium">Category</span>{" "}
        <WordText
          label="Category"
          value={place.category}
          known={names?.categories ?? []}
          placeholder="none"
          onChange={(category) => set({ category }, true)}
        />
      </RuleCard>
      <RuleCard name="Tags" edited={!same(place.tags, saved.tags)}>
        <span className="font-medium">Tags</span>{" "}
        <WordList
          label="Tags"
          values={place.tags}
          added={new Set(place.tags.filter((tag) => !saved.tags.includes(tag)))}
          onChange={(tags) => set({ tags })}
        />
      </RuleCard>
      <RuleCard name="Byline" edited={place.byline !== saved.byline}>
        <span className="font-medium">Byline</span>{" "}
        <WordText
          label="Byline"
          value={place.byline}
          known={names?.bylines ?? []}
          placeholder="none"
          onChange={(byline) => set({ byline }, true)}
        />
      </RuleCard>
      <RuleCard name="Date" edited={place.date !== saved.date}>
        <span className="font-medium">Dated</span> at the time{" "}
        <WordSelect label="Date" value={place.date} options={DATES} onChange={(date) => set({ date })} />,
        never in the future
      </RuleCard>
    </>
  );
}
