import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { keys } from "@/api/keys";
import type { Verdict } from "@/api/proofs";
import { isUnderWay, type Run, runQuery, stopRun } from "@/api/runs";
import { useMay } from "@/api/useRole";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { useToldChange } from "@/components/useToldChange";
import { desk, publicBlog } from "@/lib/blog-path";
import { moment } from "@/lib/format";
import { Button, buttonLook } from "@/ui/Button";
import { RunCounts } from "./RunCounts";
import { RunDecisions } from "./RunDecisions";
import { RunSources } from "./RunSources";
import { RunState } from "./RunState";
import { TakeBackRun } from "./TakeBackRun";

/** Refetches everything that a run may have changed when it has ended. */
function useFreshAfter(run: Run | undefined, blog: string) {
  const queries = useQueryClient();
  const live = isUnderWay(run);
  const wasLive = useRef(false);
  useEffect(() => {
    if (wasLive.current && !live) {
      for (const key of [
        keys.posts,
        keys.campaigns,
        keys.runs,
        keys.proof,
        keys.sources,
        keys.run,
        keys.blog,
      ]) {
        queries.invalidateQueries({ queryKey: key(blog) });
      }
    }
    wasLive.current = live;
  }, [live, queries, blog]);
}

export default function RunPage() {
  const { blog = "", id = "" } = useParams();
  const may = useMay();
  const run = useQuery(runQuery(blog, Number(id)));
  const [verdict, setVerdict] = useState<Verdict | "">("");
  const [asking, setAsking] = useState(false);
  useFreshAfter(run.data, blog);
  const stopping = useToldChange(() => stopRun(blog, Number(id)), { refresh: [keys.run(blog, Number(id))] });
  if (run.error) return <ErrorNote error={run.error} onRetry={run.refetch} />;
  if (!run.data) return <Loading what="the run" />;
  const live = isUnderWay(run.data);
  return (
    <>
      <Head
        title={`Run of ${run.data.campaign}`}
        facts={
          <>
            <RunState run={run.data} />
            <span className="text-ink3">
              run of {moment(run.data.asked_at)} · revision {run.data.revision}
              {run.data.started_by && ` · started by ${run.data.started_by}`}
              {run.data.scheduled && " · started by the schedule"}
              {run.data.taken_back_at && ` · taken back ${moment(run.data.taken_back_at)}`}
            </span>
          </>
        }
      >
        {live && may("editor") && (
          <Button
            look="danger"
            busy={stopping.isPending}
            disabled={run.data.stop_asked}
            onClick={() => stopping.mutate()}
          >
            Stop
          </Button>
        )}
        {!live && may("editor") && !run.data.taken_back_at && (
          <Button onClick={() => setAsking(true)}>Take back…</Button>
        )}
        <Link className={buttonLook("plain")} to={desk.bench(blog, run.data.campaign_slug)}>
          To the bench
        </Link>
        {!live && (
          <a className={buttonLook("primary")} href={publicBlog(blog)} target="_blank" rel="noreferrer">
            Read the blog
          </a>
        )}
      </Head>
      <div className="min-h-0 flex-1 space-y-4 overflow-auto p-5">
        {run.data.failure && (
          <p
            role="alert"
            className="rounded-lg border border-madder bg-madder-wash p-3 font-medium text-madder"
          >
            {run.data.failure}
          </p>
        )}
        <RunCounts run={run.data} chosen={verdict} onChoose={setVerdict} />
        <RunSources run={run.data} blog={blog} />
        <RunDecisions blog={blog} run={run.data} verdict={verdict} />
      </div>
      {asking && <TakeBackRun blog={blog} run={run.data} onClose={() => setAsking(false)} />}
    </>
  );
}
