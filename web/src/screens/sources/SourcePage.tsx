import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { campaignsBySourceQuery, type ListUser } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { changeSources, readSource, removeSource, sourceQuery } from "@/api/sources";
import { takeDownSource } from "@/api/takedowns";
import { useMay } from "@/api/useRole";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { useToldChange } from "@/components/useToldChange";
import { desk } from "@/lib/blog-path";
import { bytes, plural } from "@/lib/format";
import { kindOf, outcome } from "@/lib/reading-words";
import { TakedownDialog } from "@/screens/takedowns/TakedownDialog";
import { Button, buttonLook } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { useTell } from "@/ui/Toasts";
import { AccessDialog } from "./AccessDialog";
import { OlderDialog } from "./OlderDialog";
import { ReadingRow } from "./ReadingRow";
import { RightsQuestion } from "./RightsQuestion";
import { SourceAsks } from "./SourceAsks";
import { SourceFacts } from "./SourceFacts";
import { SourceHealth } from "./SourceHealth";
import { SourceMarks } from "./SourceMarks";
import { SourcePush } from "./SourcePush";
import { SourceReads } from "./SourceReads";
import { SourceRights } from "./SourceRights";
import { SourceUses } from "./SourceUses";
import { SourceWalk } from "./SourceWalk";

function removalText(uses: readonly ListUser[]): string {
  const stays = "It is not read any more. Its items and the posts made from them stay.";
  if (!uses.length) return stays;
  const campaigns = uses.map(({ name }) => `“${name}”`).join(", ");
  const gets = uses.length === 1 ? `The campaign ${campaigns} gets` : `The campaigns ${campaigns} get`;
  return `${gets} nothing from it any more; untick it at Gather there. ${stays}`;
}

export default function SourcePage() {
  const { blog = "", key = "" } = useParams();
  const navigate = useNavigate();
  const tell = useTell();
  const may = useMay();
  const [asking, setAsking] = useState(false);
  const [goingBack, setGoingBack] = useState(false);
  const [withdrawing, setWithdrawing] = useState(false);
  const found = useQuery(sourceQuery(blog, key));
  const uses = useQuery(campaignsBySourceQuery(blog, [key])).data?.[key] ?? [];
  const refresh = [keys.source(blog, key), keys.sources(blog)];
  const reading = useToldChange(() => readSource(blog, key), {
    refresh,
    onDone: (read) =>
      tell(outcome(read, found.data ? kindOf(found.data.source) : "feed"), {
        tone: read.error ? "bad" : "good",
      }),
  });
  const removing = useToldChange(() => removeSource(blog, key), {
    refresh: [keys.sources(blog)],
    onDone: () => navigate(desk.sources(blog)),
  });
  const pausing = useToldChange(
    () =>
      changeSources(blog, { keys: [key], change: found.data?.source.paused ? "resume" : "pause", label: "" }),
    { refresh },
  );
  if (found.error) return <ErrorNote error={found.error} onRetry={found.refetch} />;
  if (!found.data) return <Loading what="the source" />;
  const { source, readings } = found.data;
  // Pages imported one by one have no feed to read.
  const byHand = source.format === "Single pages";
  return (
    <>
      <Head
        title={source.title}
        facts={
          <span className="text-ink3">
            {source.format} · {plural(source.items, "captured item")} ·{" "}
            {uses.length ? `used by ${plural(uses.length, "campaign")}` : "used by no campaign"}
          </span>
        }
      >
        <SourceMarks source={source} />
        {may("editor") && !byHand && (
          <>
            {!source.platform && <Button onClick={() => setAsking(true)}>How it is asked</Button>}
            {source.reader ? (
              <Link className={buttonLook("plain")} to={desk.reader(blog, source.reader)}>
                Page reader
              </Link>
            ) : (
              !source.platform && <Button onClick={() => setGoingBack(true)}>Older items</Button>
            )}
            <Button busy={pausing.isPending} onClick={() => pausing.mutate()}>
              {source.paused ? "Resume" : "Pause"}
            </Button>
            <Button busy={reading.isPending} onClick={() => reading.mutate()}>
              Read now
            </Button>
          </>
        )}
        {may("editor") && (
          <>
            <Link
              className={buttonLook("plain")}
              to={`${desk.posts(blog)}?${new URLSearchParams({ source: key })}`}
            >
              Its posts
            </Link>
            <Link className={buttonLook("primary")} to={desk.newCampaign(blog, source.key)}>
              New campaign on it
            </Link>
            {!source.blocked && (
              <Button look="danger" onClick={() => setWithdrawing(true)}>
                Take down
              </Button>
            )}
            <Confirm
              trigger={<Button look="danger">Remove</Button>}
              title={`Remove “${source.title}”?`}
              text={removalText(uses)}
              action="Remove source"
              onConfirm={() => removing.mutate()}
            />
          </>
        )}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto p-5">
        <p className="mb-4 [overflow-wrap:anywhere] text-ink2">
          {byHand
            ? "Pages that were taken one by one, by their addresses."
            : source.platform
              ? `Read from the ${source.format.toLowerCase()}, by what stands below.`
              : source.url}
          {source.link && (
            <>
              {" · "}
              <a className="font-semibold text-verd" href={source.link} target="_blank" rel="noreferrer">
                Visit the site
              </a>
            </>
          )}
        </p>
        {source.blocked && (
          <p
            role="status"
            className="mb-4 rounded-lg border border-madder bg-madder-wash p-3 font-medium text-madder"
          >
            It was withdrawn: nothing reads it, and no campaign decides its items.{" "}
            <Link className="underline" to={desk.takedowns(blog)}>
              See the record
            </Link>
          </p>
        )}
        {withdrawing && (
          <TakedownDialog
            blog={blog}
            title={`Take down all of “${source.title}”?`}
            text="Every post that came from it goes into the bin. It is not read any more, and no campaign takes anything from it."
            onTakeDown={(ask) => takeDownSource(blog, key, ask)}
            onClose={() => setWithdrawing(false)}
            onDone={() => setWithdrawing(false)}
          />
        )}
        {source.former_url && (
          <p className="mb-4 text-ink3 [overflow-wrap:anywhere]">
            It was read at {source.former_url} before it moved for good.
          </p>
        )}
        <SourceHealth source={source} />
        <SourceWalk blog={blog} source={source.key} />
        <SourcePush blog={blog} source={source.key} />
        <SourceReads blog={blog} source={source.key} />
        <SourceFacts blog={blog} source={source.key} days={source.days} />
        <SourceUses blog={blog} uses={uses} />
        {source.platform && <SourceAsks key={`${source.key}-asks`} blog={blog} source={source} />}
        {may("editor") && !source.right_said && <RightsQuestion blog={blog} source={source} />}
        <SourceRights key={source.key} blog={blog} source={source} />
        {goingBack && <OlderDialog blog={blog} source={source.key} onClose={() => setGoingBack(false)} />}
        {asking && <AccessDialog blog={blog} source={source.key} onClose={() => setAsking(false)} />}
        <section aria-label="Readings" className="sheet-card">
          <h2 className="border-b border-line px-4 py-2 text-sm">
            Readings
            {found.data.saved_bytes > 0 && (
              <span className="ml-3 text-xs font-normal text-ink3">
                asking only for what has changed saved about {bytes(found.data.saved_bytes)}
              </span>
            )}
          </h2>
          {readings.length === 0 && (
            <p className="p-6 text-center text-ink3">
              Not read yet. A run of a campaign reads it, or the button “Read now”.
            </p>
          )}
          <ul>
            {readings.map((one) => (
              <ReadingRow key={one.at} reading={one} kind={kindOf(source)} />
            ))}
          </ul>
        </section>
      </div>
    </>
  );
}
