import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { type CampaignFilter, campaignsQuery } from "@/api/campaigns";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { desk } from "@/lib/blog-path";
import { MODE_WORDS, type Mode } from "@/lib/modes";
import { buttonLook } from "@/ui/Button";
import { WordSelect } from "@/ui/WordSelect";
import { Archive } from "./Archive";
import { CampaignRow, COLUMNS } from "./CampaignRow";
import { PickedCampaigns } from "./PickedCampaigns";

const ANY = "-any-";
const MODES = [
  { value: ANY, label: "any mode" },
  ...Object.entries(MODE_WORDS).map(([value, { words }]) => ({ value, label: words.toLowerCase() })),
];
const TROUBLE = [
  { value: "all", label: "any result" },
  { value: "failed", label: "only those whose last run failed" },
] as const;
const STATES = [
  { value: "any", label: "any schedule" },
  { value: "scheduled", label: "those that run by themselves" },
  { value: "paused", label: "paused ones" },
  { value: "hand", label: "those run by hand" },
] as const;
const SORTS = [
  { value: "name", label: "by name" },
  { value: "run", label: "last run first" },
  { value: "next", label: "next run first" },
  { value: "newest", label: "newest first" },
] as const;

export default function Campaigns() {
  const { blog = "" } = useParams();
  const may = useMay();
  const [filter, setFilter] = useState<CampaignFilter>({ sort: "name" });
  const set = (next: CampaignFilter) => setFilter((before) => ({ ...before, offset: 0, ...next }));
  const campaigns = useQuery(campaignsQuery(blog, filter));
  const rows = campaigns.data?.rows;
  const empty = rows?.length === 0;
  const narrowed = Boolean(filter.search || filter.mode || filter.failed || filter.state);
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const shown = rows?.map(({ slug }) => slug) ?? [];
  const allPicked = shown.length > 0 && shown.every((slug) => picked.has(slug));
  const pick = (slug: string, on: boolean) =>
    setPicked((before) => new Set(on ? [...before, slug] : [...before].filter((one) => one !== slug)));
  return (
    <>
      <Head title="Campaigns" facts={<span className="text-ink3">rules that turn items into posts</span>}>
        <span className="text-ink3">
          <WordSelect
            label="Mode"
            value={filter.mode ?? ANY}
            options={MODES}
            onChange={(mode) => set({ mode: mode === ANY ? null : (mode as Mode) })}
          />
          ,{" "}
          <WordSelect
            label="Schedule"
            value={filter.state || "any"}
            options={STATES}
            onChange={(state) => set({ state: state === "any" ? "" : state })}
          />
          ,{" "}
          <WordSelect
            label="Trouble"
            value={filter.failed ? "failed" : "all"}
            options={TROUBLE}
            onChange={(value) => set({ failed: value === "failed" })}
          />
          ,{" "}
          <WordSelect
            label="Order"
            value={filter.sort ?? "name"}
            options={SORTS}
            onChange={(sort) => set({ sort })}
          />
        </span>
        <SearchBox
          label="Find a campaign"
          value={filter.search ?? ""}
          onChange={(search) => set({ search })}
        />
        {may("editor") && (
          <Link className={buttonLook("primary")} to={desk.newCampaign(blog)}>
            New campaign
          </Link>
        )}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto p-5">
        {campaigns.error && <ErrorNote error={campaigns.error} onRetry={campaigns.refetch} />}
        {campaigns.isPending && <Loading what="campaigns" />}
        {empty && narrowed && (
          <Empty title="No campaign found" text="Change the filters above, or search for other words." />
        )}
        {empty && !narrowed && (
          <Empty
            title="No campaign yet"
            text="A campaign takes items from sources and makes posts of those you want."
          >
            <Link className={buttonLook("primary")} to={desk.newCampaign(blog)}>
              Make the first one
            </Link>
          </Empty>
        )}
        {rows && !empty && (
          <div className="sheet-card">
            {picked.size > 0 && may("editor") && (
              <PickedCampaigns
                blog={blog}
                picked={picked}
                filter={filter}
                total={campaigns.data?.total ?? 0}
                onPick={(slugs) => setPicked(new Set(slugs))}
              />
            )}
            <div
              className={`hidden items-center gap-4 border-b border-line px-5 py-2 text-xs text-ink3 md:grid ${COLUMNS}`}
            >
              <input
                type="checkbox"
                aria-label="Pick all campaigns of this page"
                checked={allPicked}
                onChange={(event) => setPicked(new Set(event.target.checked ? shown : []))}
              />
              <span>Campaign</span>
              <span>Posts go out</span>
              <span>Next run</span>
              <span>Last run</span>
              <span>Two weeks</span>
              <span className="text-right">Posts</span>
            </div>
            <ul aria-label="Campaigns">
              {rows.map((row) => (
                <CampaignRow
                  key={row.slug}
                  row={row}
                  blog={blog}
                  picked={picked.has(row.slug)}
                  onPick={(on) => pick(row.slug, on)}
                />
              ))}
            </ul>
          </div>
        )}
        {campaigns.data && (
          <Paging
            offset={filter.offset ?? 0}
            size={PAGE}
            total={campaigns.data.total}
            onChange={(offset) => set({ offset })}
          />
        )}
        <Archive blog={blog} />
      </div>
    </>
  );
}
