import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { campaignQuery, revisionsQuery } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { beginReplay, isUnderWay, lastReplayQuery, type Outcome, stopReplay } from "@/api/replay";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { FormError } from "@/components/FormError";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { desk } from "@/lib/blog-path";
import { count, moment } from "@/lib/format";
import { Button, buttonLook } from "@/ui/Button";
import { Scroll } from "@/ui/Scroll";
import { WordSelect } from "@/ui/WordSelect";
import { AppliedNotice } from "./AppliedNotice";
import { ReplayCounts } from "./ReplayCounts";
import { ReplayResults } from "./ReplayResults";
import { useFreshAfterReplay } from "./useFreshAfterReplay";

/** A replay: a revision's result for all past decisions of a campaign. */
export default function ReplayPage() {
  const { blog = "", slug = "" } = useParams();
  const editor = useMay()("editor");
  const campaign = useQuery(campaignQuery(blog, slug));
  const revisions = useQuery(revisionsQuery(blog, slug)).data?.rows ?? [];
  const replay = useQuery(lastReplayQuery(blog, slug));
  const [chosen, setChosen] = useState<number | null>(null);
  const [outcome, setOutcome] = useState<Outcome>("changed");
  const refresh = [keys.replay(blog, slug)];
  const latest = campaign.data?.revision ?? 0;
  const revision = chosen ?? latest;
  const beginning = useChange(() => beginReplay(blog, slug, revision), { refresh });
  const stopping = useChange((number: number) => stopReplay(blog, number), { refresh });
  const live = isUnderWay(replay.data);
  useFreshAfterReplay(blog, slug, live);
  const error = campaign.error ?? replay.error;
  if (error) return <ErrorNote error={error} onRetry={replay.refetch} />;
  if (!campaign.data || replay.isPending) return <Loading what="the comparison" />;
  const found = replay.data;
  const numbers = revisions.length ? revisions.map(({ number }) => number) : [latest];
  return (
    <>
      <Head
        title="Bring posts to these rules"
        facts={
          <Link className="text-ink3 hover:text-verd" to={desk.bench(blog, slug)}>
            {campaign.data.name}
          </Link>
        }
      >
        {found && live && editor && (
          <Button look="danger" disabled={found.stop_asked} onClick={() => stopping.mutate(found.id)}>
            Stop
          </Button>
        )}
        <Link className={buttonLook("plain")} to={desk.bench(blog, slug)}>
          To the bench
        </Link>
      </Head>
      <div className="flex shrink-0 flex-wrap items-center gap-3 border-b border-line bg-sheet px-4 py-2">
        <p className="text-ink3">
          Compare all posts with{" "}
          <WordSelect
            label="Revision"
            value={String(revision)}
            options={numbers.map((number) => ({
              value: String(number),
              label: number === latest ? `revision ${number}, the latest` : `revision ${number}`,
            }))}
            onChange={(value) => setChosen(Number(value))}
          />
          . Nothing is changed by comparing.
        </p>
        {editor && (
          <Button
            small
            look={found ? "plain" : "primary"}
            busy={beginning.isPending || live}
            onClick={() => beginning.mutate()}
          >
            {found ? "Compare again" : "Compare"}
          </Button>
        )}
        {found && (
          <span className="ml-auto text-xs text-ink3">
            compared with revision {found.revision}, {moment(found.asked_at)}
            {found.state === "stopped" && ", stopped before its end"}
            {found.state === "failed" && ", failed before its end"}
          </span>
        )}
      </div>
      <Scroll label="Comparison" className="min-h-0 flex-1 space-y-4 p-5">
        <FormError error={beginning.error ?? stopping.error} />
        {!found && (
          <Empty
            title="Not compared yet"
            text="Compare to see, post by post, what these rules would have made: the same, something else, or nothing. What people edited stays as they left it."
          />
        )}
        {found?.failure && (
          <p role="alert" className="font-medium text-madder">
            {found.failure}
          </p>
        )}
        {found && live && (
          <div className="sheet-card px-4 py-3">
            <p aria-live="polite">
              {found.state === "applying"
                ? "Posts are being changed…"
                : `${count(found.done)} of ${count(found.total)} items compared`}
            </p>
            {found.state !== "applying" && (
              <progress
                aria-label="Items compared"
                className="mt-2 h-1.5 w-full accent-verd"
                value={found.done}
                max={Math.max(found.total, 1)}
              />
            )}
          </div>
        )}
        {found?.change && !live && (
          <AppliedNotice blog={blog} slug={slug} change={found.change} editor={editor} />
        )}
        {found && <ReplayCounts replay={found} chosen={outcome} onChoose={setOutcome} />}
        {found && found.state !== "waiting" && (
          <ReplayResults
            key={`${found.id} ${outcome}`}
            blog={blog}
            slug={slug}
            replay={found}
            outcome={outcome}
            editor={editor && !live}
            live={live}
          />
        )}
      </Scroll>
    </>
  );
}
