import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { CampaignDocument } from "@/api/campaigns";
import { sourcesQuery } from "@/api/sources";
import { useMay } from "@/api/useRole";
import { MOST_NAMED } from "@/components/Paging";
import { desk } from "@/lib/blog-path";
import { same } from "@/lib/edits";
import { plural } from "@/lib/format";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordSelect } from "@/ui/WordSelect";
import { RuleCard } from "../rules/RuleCard";
import type { BenchState } from "../useBench";
import { GatherTexts } from "./GatherTexts";

const BODIES = [
  { value: "full", label: "full text" },
  { value: "summary", label: "summary" },
] as const;

export function GatherPanel({ blog, bench }: { blog: string; bench: BenchState }) {
  const found = useQuery(sourcesQuery(blog, "", "title", 0, MOST_NAMED)).data;
  const sources = found?.rows ?? [];
  const editor = useMay()("editor");
  const { gather } = bench.document;
  const known = new Set(sources.map(({ key }) => key));
  // Beyond the listed number, missing sources cannot be recognised.
  const lost = found && found.total <= sources.length ? gather.sources.filter((key) => !known.has(key)) : [];
  const saved = bench.saved.gather;

  function set(next: Partial<CampaignDocument["gather"]>) {
    bench.change((document) => ({ ...document, gather: { ...document.gather, ...next } }));
  }

  return (
    <>
      <RuleCard name="Sources" edited={!same(gather.sources, saved.sources)}>
        <span className="font-medium">Items come from</span>
        {sources.map((source) => (
          <label key={source.key} className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              className="accent-verd"
              checked={gather.sources.includes(source.key)}
              onChange={(event) =>
                set({
                  sources: event.target.checked
                    ? [...gather.sources, source.key]
                    : gather.sources.filter((key) => key !== source.key),
                })
              }
            />
            <span className="truncate">{source.title}</span>
            <span className="ml-auto text-xs whitespace-nowrap text-ink3">
              {plural(source.items, "item")}
            </span>
          </label>
        ))}
        {lost.map((key) => (
          <label key={key} className="flex items-center gap-2 py-0.5 text-madder">
            <input
              type="checkbox"
              className="accent-verd"
              checked
              onChange={() => set({ sources: gather.sources.filter((other) => other !== key) })}
            />
            <span className="truncate">{key}</span>
            <span className="ml-auto text-xs whitespace-nowrap">removed: untick it to save</span>
          </label>
        ))}
        <Link className="font-semibold text-verd" to={desk.addSources(blog)}>
          Add a feed
        </Link>
      </RuleCard>
      {editor && (
        <GatherTexts
          blog={blog}
          sources={sources.filter(({ key, reader }) => gather.sources.includes(key) && !reader)}
        />
      )}
      <RuleCard name="Body" edited={gather.body !== saved.body}>
        A post starts from the{" "}
        <WordSelect label="Body" value={gather.body} options={BODIES} onChange={(body) => set({ body })} /> of
        an item, or the other one where that is empty
      </RuleCard>
      <RuleCard name="How far back" edited={gather.look_back_days !== saved.look_back_days}>
        Take items of the last{" "}
        <OptionalNumber
          label="Days back"
          value={gather.look_back_days ?? null}
          none="days without limit"
          usual={14}
          max={3650}
          unit="days"
          onChange={(look_back_days) => set({ look_back_days })}
        />
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
