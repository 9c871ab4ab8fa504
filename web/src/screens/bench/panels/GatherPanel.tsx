import { useQuery } from "@tanstack/react-query";
import type { CampaignDocument } from "@/api/campaigns";
import { chosenSourcesQuery } from "@/api/sources";
import { useMay } from "@/api/useRole";
import { SourceChoice } from "@/components/source-choice/SourceChoice";
import { same } from "@/lib/editing/edits";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordDate } from "@/ui/WordDate";
import { WordSelect } from "@/ui/WordSelect";
import { RuleCard } from "../rules/RuleCard";
import type { BenchState } from "../useBench";
import { GatherTexts } from "./GatherTexts";

const BODIES = [
  { value: "full", label: "full text" },
  { value: "summary", label: "summary" },
] as const;

export function GatherPanel({ blog, bench }: { blog: string; bench: BenchState }) {
  const { gather } = bench.document;
  const chosen = useQuery(chosenSourcesQuery(blog, gather.sources, gather.labels)).data;
  const editor = useMay()("editor");
  const saved = bench.saved.gather;

  function set(next: Partial<CampaignDocument["gather"]>) {
    bench.change((document) => ({ ...document, gather: { ...document.gather, ...next } }));
  }

  return (
    <>
      <RuleCard name="Sources" edited={!same([gather.sources, gather.labels], [saved.sources, saved.labels])}>
        <SourceChoice blog={blog} chosen={gather} onChange={set} />
      </RuleCard>
      {editor && <GatherTexts blog={blog} sources={chosen?.rows.filter(({ reader }) => !reader) ?? []} />}
      <RuleCard name="Body" edited={gather.body !== saved.body}>
        A post starts from the{" "}
        <WordSelect label="Body" value={gather.body} options={BODIES} onChange={(body) => set({ body })} /> of
        an item, or the other one where that is empty
      </RuleCard>
      <RuleCard
        name="How far back"
        edited={!same([gather.look_back_days, gather.not_before], [saved.look_back_days, saved.not_before])}
      >
        Take items of the last{" "}
        <OptionalNumber
          label="Days back"
          value={gather.look_back_days ?? null}
          none="days without limit"
          usual={14}
          max={3650}
          unit="days"
          onChange={(look_back_days) => set({ look_back_days })}
        />{" "}
        and from{" "}
        <WordDate
          label="First day"
          value={gather.not_before ?? null}
          none="any day"
          onChange={(not_before) => set({ not_before })}
        />{" "}
        on
      </RuleCard>
      <RuleCard name="How much" edited={gather.at_most !== saved.at_most}>
        One run decides{" "}
        <OptionalNumber
          label="At most"
          value={gather.at_most ?? null}
          none="all there is"
          usual={50}
          max={10_000}
          unit="items, oldest first; the rest wait"
          onChange={(at_most) => set({ at_most })}
        />
      </RuleCard>
    </>
  );
}
