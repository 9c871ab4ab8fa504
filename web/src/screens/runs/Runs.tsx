import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Verdict } from "@/api/proofs";
import { type Run, type RunFilter, runsQuery } from "@/api/runs";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { desk } from "@/lib/blog-path";
import { count, moment } from "@/lib/format";
import { VERDICT_WORDS } from "@/lib/wording";
import { buttonLook } from "@/ui/Button";
import { WordSelect } from "@/ui/WordSelect";
import { RunState } from "./RunState";

const CELL = "px-3 py-2";

function Row({ run, blog }: { run: Run; blog: string }) {
  return (
    <tr
      className={clsx(
        "border-t border-line2 hover:bg-chalk",
        run.taken_back_at && "[&_td.text-right]:text-ink3 [&_td.text-right]:line-through",
      )}
    >
      <td className={`${CELL} whitespace-nowrap`}>
        <Link className="font-medium hover:text-verd" to={desk.run(blog, run.id)}>
          {moment(run.asked_at)}
        </Link>
      </td>
      <td className={CELL}>
        <Link className="hover:text-verd" to={desk.bench(blog, run.campaign_slug)}>
          {run.campaign}
        </Link>
        <span className="text-ink3"> · revision {run.revision}</span>
      </td>
      <td className={CELL}>
        <RunState run={run} />
      </td>
      <td className={`${CELL} text-right`}>{count(run.fresh)}</td>
      <td className={`${CELL} text-right font-medium text-verd`} title={outWords(run)}>
        {count(sum(run, GO_OUT))}
      </td>
      <td className={`${CELL} text-right text-ochre`}>{count(sum(run, ["hold", "draft"]))}</td>
      <td className={`${CELL} text-right text-indigo`}>{count(run.verdicts.duplicate ?? 0)}</td>
      <td className={`${CELL} text-right text-madder`}>{count(run.verdicts.refused ?? 0)}</td>
      <td className={`${CELL} text-ink3`}>
        {run.started_by || (run.scheduled ? "the schedule" : "by itself")}
      </td>
    </tr>
  );
}

/** Verdicts whose posts are published without review. */
const GO_OUT = ["publish", "scheduled", "private"] as const;

function sum(run: Run, verdicts: readonly Verdict[]): number {
  return verdicts.reduce((total, verdict) => total + (run.verdicts[verdict] ?? 0), 0);
}

function outWords(run: Run): string {
  return GO_OUT.map((verdict) => `${count(run.verdicts[verdict] ?? 0)} ${VERDICT_WORDS[verdict]}`).join(", ");
}

const ANY = "-any-";
const STATES = [
  { value: ANY, label: "in any state" },
  { value: "under_way", label: "under way" },
  { value: "done", label: "done" },
  { value: "stopped", label: "stopped" },
  { value: "failed", label: "failed" },
] as const;

export default function Runs() {
  const { blog = "" } = useParams();
  const [offset, setOffset] = useState(0);
  const [state, setState] = useState<RunFilter>("");
  const [search, setSearch] = useState("");
  const runs = useQuery(runsQuery(blog, "", offset, state, search));
  const narrowed = state !== "" || search !== "";
  return (
    <>
      <Head
        title="Runs"
        facts={
          <span className="text-ink3">
            each reads the sources, decides and writes posts,{" "}
            <WordSelect
              label="State"
              value={state || ANY}
              options={STATES}
              onChange={(next) => {
                setState(next === ANY ? "" : (next as RunFilter));
                setOffset(0);
              }}
            />
          </span>
        }
      >
        <Link className={buttonLook("plain")} to={desk.decisions(blog)}>
          Search all decisions
        </Link>
        <SearchBox
          label="Find a run"
          value={search}
          onChange={(text) => {
            setSearch(text);
            setOffset(0);
          }}
        />
      </Head>
      <div className="min-h-0 flex-1 overflow-auto p-5">
        {runs.error && <ErrorNote error={runs.error} onRetry={runs.refetch} />}
        {runs.isPending && <Loading what="runs" />}
        {runs.data?.total === 0 && (
          <Empty
            title={narrowed ? "No run found" : "Nothing has run yet"}
            text={
              narrowed
                ? "Search for a campaign, a name or a failure, or choose any state."
                : "Open a campaign and press “Run now”."
            }
          />
        )}
        {runs.data && runs.data.total > 0 && (
          <div className="sheet-card">
            <table className="w-full">
              <thead className="text-left text-xs text-ink3">
                <tr>
                  {["Asked for", "Campaign", "State"].map((name) => (
                    <th key={name} className={`${CELL} font-medium`}>
                      {name}
                    </th>
                  ))}
                  {["New items", "Go out", "Held or draft", "Duplicates", "Refused"].map((name) => (
                    <th key={name} className={`${CELL} text-right font-medium`}>
                      {name}
                    </th>
                  ))}
                  <th className={`${CELL} font-medium`}>Started by</th>
                </tr>
              </thead>
              <tbody>
                {runs.data.rows.map((run) => (
                  <Row key={run.id} run={run} blog={blog} />
                ))}
              </tbody>
            </table>
            <Paging offset={offset} size={PAGE} total={runs.data.total} onChange={setOffset} />
          </div>
        )}
      </div>
    </>
  );
}
