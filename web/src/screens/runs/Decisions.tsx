import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";
import { type FoundFilter, foundDecisionsQuery, type Outcome } from "@/api/runs";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging, SEARCHED } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { CampaignWord } from "@/components/words/CampaignWord";
import { Scroll } from "@/ui/Scroll";
import { WordSelect } from "@/ui/WordSelect";
import { DecisionList } from "./DecisionList";

const ANY = "-any-";
const OUTCOMES = [
  { value: ANY, label: "whatever became of them" },
  { value: "kept", label: "kept" },
  { value: "held", label: "held" },
  { value: "duplicate", label: "duplicates" },
  { value: "refused", label: "refused" },
] as const;

/** Decisions of all runs, linked to their traces. The filter is part of the address. */
export default function Decisions() {
  const { blog = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const filter: FoundFilter = {
    day: params.get("day") ?? "",
    outcome: (params.get("outcome") ?? "") as Outcome,
    search: params.get("search") ?? "",
    campaign: params.get("campaign") ?? "",
    offset: Number(params.get("offset") ?? 0),
  };
  const found = useQuery(foundDecisionsQuery(blog, filter));
  const narrowed = Boolean(filter.day || filter.outcome || filter.search || filter.campaign);

  function set(next: Partial<FoundFilter>) {
    const merged = Object.entries({ ...filter, offset: 0, ...next }).filter(([, value]) => value);
    setParams(Object.fromEntries(merged.map(([key, value]) => [key, String(value)])), { replace: true });
  }

  return (
    <>
      <Head
        title="Items decided"
        facts={
          <span className="text-ink3">
            of <CampaignWord blog={blog} value={filter.campaign} onChange={(campaign) => set({ campaign })} />
            ,{" "}
            <WordSelect
              label="Outcome"
              value={filter.outcome || ANY}
              options={OUTCOMES}
              onChange={(outcome) => set({ outcome: outcome === ANY ? "" : (outcome as Outcome) })}
            />
          </span>
        }
      >
        <label className="flex items-center gap-2 text-ink3">
          on
          <input
            type="date"
            aria-label="Day"
            className="rounded-[7px] border border-line bg-sheet px-2 py-1 text-ink"
            value={filter.day}
            onChange={(event) => set({ day: event.target.value })}
          />
        </label>
        <SearchBox label="Find an item" value={filter.search} onChange={(search) => set({ search })} />
      </Head>
      <Scroll label="Decisions" className="min-h-0 flex-1 p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {found.isPending && <Loading what="decisions" />}
        {found.data?.total === 0 && (
          <Empty
            title={narrowed ? "No item found" : "No item was decided yet"}
            text={
              narrowed
                ? "Choose another day or outcome, or search for other words."
                : "A run decides the items of a campaign. Run one at its bench, or give it a schedule."
            }
          />
        )}
        {found.data && found.data.total > 0 && (
          <div className="sheet-card">
            <DecisionList blog={blog} label="Items decided" rows={found.data.rows} />
            <Paging
              order="last decided first"
              offset={filter.offset}
              size={PAGE}
              total={found.data.total}
              endsAt={SEARCHED}
              onChange={(offset) => set({ offset })}
            />
          </div>
        )}
      </Scroll>
    </>
  );
}
