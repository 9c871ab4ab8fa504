import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { type CampaignRow, campaignsQuery } from "@/api/campaigns";
import { isUnderWay } from "@/api/runs";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { Paging } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { desk } from "@/lib/blog-path";
import { count, plural, since } from "@/lib/format";
import { buttonLook } from "@/ui/Button";
import { Lozenge } from "@/ui/Lozenge";
import { Pill, type PillTone } from "@/ui/Pill";
import { Spark } from "@/ui/Spark";

const PAGE = 50;
const MODES: Record<string, { words: string; tone: PillTone }> = {
  publish: { words: "publishes by itself", tone: "verd" },
  hold: { words: "holds for review", tone: "ochre" },
  draft: { words: "keeps drafts", tone: "plain" },
};

function LastRun({ row, blog }: { row: CampaignRow; blog: string }) {
  const run = row.last_run;
  if (!run) return <span className="text-ink3">never run</span>;
  if (isUnderWay(run)) {
    return (
      <Link className="font-medium text-verd" to={desk.run(blog, run.id)}>
        running now
      </Link>
    );
  }
  const made = (run.verdicts.publish ?? 0) + (run.verdicts.hold ?? 0) + (run.verdicts.draft ?? 0);
  return (
    <Link className="hover:text-verd" to={desk.run(blog, run.id)}>
      {run.state === "failed" && <span className="font-semibold text-madder">failed, </span>}
      {since(run.asked_at)} · {plural(made, "post")} of {plural(run.fresh, "new item")}
    </Link>
  );
}

function Row({ row, blog }: { row: CampaignRow; blog: string }) {
  const mode = MODES[row.mode];
  return (
    <li className="grid items-center gap-4 border-b border-line2 px-5 py-3 last:border-0 md:grid-cols-[minmax(0,1fr)_140px_180px_90px_130px] hover:bg-chalk">
      <div className="min-w-0">
        <Link
          className="font-display text-[15px] font-semibold hover:text-verd"
          to={desk.bench(blog, row.slug)}
        >
          {row.name}
        </Link>
        <p className="truncate text-xs text-ink3">
          {plural(row.sources, "source")} · revision {row.revision}
          {row.category && ` · to ${row.category}`}
        </p>
      </div>
      <div>{mode && <Pill tone={mode.tone}>{mode.words}</Pill>}</div>
      <div className="text-xs text-ink2">
        <LastRun row={row} blog={blog} />
      </div>
      <Spark days={row.days} label={`Posts a day over two weeks: ${row.days.join(", ")}`} />
      <div className="text-right">
        <span className="text-base font-semibold">{count(row.published)}</span>{" "}
        <span className="text-xs text-ink3">on the blog</span>
        {row.held > 0 && (
          <p className="flex items-center justify-end gap-1 text-xs font-medium text-ochre">
            <Lozenge kind="hold" /> {row.held} held
          </p>
        )}
      </div>
    </li>
  );
}

export default function Campaigns() {
  const { blog = "" } = useParams();
  const [search, setSearch] = useState("");
  const [offset, setOffset] = useState(0);
  const campaigns = useQuery(campaignsQuery(blog, search, offset));
  const rows = campaigns.data?.rows;
  const empty = rows?.length === 0;
  return (
    <>
      <Head title="Campaigns" facts={<span className="text-ink3">rules that turn items into posts</span>}>
        <SearchBox
          label="Find a campaign"
          value={search}
          onChange={(text) => {
            setSearch(text);
            setOffset(0);
          }}
        />
        <Link className={buttonLook("primary")} to={desk.newCampaign(blog)}>
          New campaign
        </Link>
      </Head>
      <div className="min-h-0 flex-1 overflow-auto p-5">
        {campaigns.error && <ErrorNote error={campaigns.error} onRetry={campaigns.refetch} />}
        {campaigns.isPending && <Loading what="campaigns" />}
        {empty && search && (
          <Empty title="No campaign of that name" text={`Nothing is called like “${search}”.`} />
        )}
        {empty && !search && (
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
          <ul aria-label="Campaigns" className="rounded-[10px] border border-line bg-sheet">
            {rows.map((row) => (
              <Row key={row.slug} row={row} blog={blog} />
            ))}
          </ul>
        )}
        {campaigns.data && (
          <Paging offset={offset} size={PAGE} total={campaigns.data.total} onChange={setOffset} />
        )}
      </div>
    </>
  );
}
