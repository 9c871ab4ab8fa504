import { EllipsisVertical } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { copyCampaign, type CampaignRow as Row } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { isUnderWay } from "@/api/runs";
import { useMay } from "@/api/useRole";
import { useToldChange } from "@/components/useToldChange";
import { desk } from "@/lib/blog-path";
import { count, plural, since } from "@/lib/format";
import { MODE_WORDS, type Mode } from "@/lib/modes";
import { nextRunWords, scheduleWords } from "@/lib/schedule";
import { CheckupDialog } from "@/screens/checkup/CheckupDialog";
import { ScheduleDialog } from "@/screens/schedule/ScheduleDialog";
import { Lozenge } from "@/ui/Lozenge";
import { Menu } from "@/ui/Menu";
import { Pill } from "@/ui/Pill";
import { Spark } from "@/ui/Spark";
import { useTell } from "@/ui/Toasts";
import { usePause } from "./usePause";
import { useRunNow } from "./useRunNow";

/** The columns of the list, as wide as its heads. */
export const COLUMNS = "md:grid-cols-[16px_minmax(0,1fr)_136px_146px_160px_84px_104px_28px]";

/** Verdicts that make a post. */
const MAKE_A_POST = ["publish", "hold", "draft", "private", "scheduled"] as const;

function LastRun({ row, blog }: { row: Row; blog: string }) {
  const run = row.last_run;
  if (!run) return <span className="text-ink3">never run</span>;
  if (isUnderWay(run)) {
    return (
      <Link className="font-medium text-verd" to={desk.run(blog, run.id)}>
        running now
      </Link>
    );
  }
  const made = MAKE_A_POST.reduce((sum, verdict) => sum + (run.verdicts[verdict] ?? 0), 0);
  return (
    <Link className="hover:text-verd" to={desk.run(blog, run.id)}>
      {run.state === "failed" && <span className="font-semibold text-madder">failed, </span>}
      {since(run.asked_at)} · {plural(made, "post")} of {plural(run.fresh, "new item")}
    </Link>
  );
}

/** The next run and the schedule. */
function NextRun({ row }: { row: Row }) {
  const words = nextRunWords(row);
  return (
    <div className="min-w-0 text-xs">
      <p
        title={`By the clock of ${row.time_zone}`}
        className={row.paused ? "font-medium text-ochre" : "text-ink2"}
      >
        {words}
      </p>
      {row.schedule.when.kind !== "hand" && (
        <p className="truncate text-ink3">{scheduleWords(row.schedule)}</p>
      )}
    </div>
  );
}

function Actions({ row, blog }: { row: Row; blog: string }) {
  const navigate = useNavigate();
  const tell = useTell();
  const [planning, setPlanning] = useState(false);
  const [checking, setChecking] = useState(false);
  const pausing = usePause(blog);
  const editor = useMay()("editor");
  const { run } = useRunNow(blog, row.slug);
  const copying = useToldChange(() => copyCampaign(blog, row.slug), {
    refresh: [keys.campaigns(blog)],
    onDone: (made) => {
      tell(`Copied as “${made.name}”.`);
      navigate(desk.bench(blog, made.slug));
    },
  });
  return (
    <>
      <Menu
        trigger={
          <button
            type="button"
            aria-label={`More for ${row.name}`}
            className="inline-flex size-7 items-center justify-center rounded text-ink2 hover:bg-sunk"
          >
            <EllipsisVertical size={15} />
          </button>
        }
        entries={[
          ...(editor ? [{ label: "Run now", onSelect: run }] : []),
          { label: "Schedule", hint: scheduleWords(row.schedule), onSelect: () => setPlanning(true) },
          ...(row.schedule.when.kind === "hand" || !editor
            ? []
            : [
                {
                  label: row.paused ? "Resume" : "Pause",
                  onSelect: () => pausing.mutate({ slugs: [row.slug], paused: !row.paused }),
                },
              ]),
          { label: "Why is nothing arriving?", onSelect: () => setChecking(true) },
          ...(editor
            ? [
                {
                  label: "Copy",
                  hint: "the same rules under another name",
                  onSelect: () => !copying.isPending && copying.mutate(),
                },
              ]
            : []),
        ]}
      />
      {checking && (
        <CheckupDialog blog={blog} slug={row.slug} name={row.name} onClose={() => setChecking(false)} />
      )}
      {planning && (
        <ScheduleDialog blog={blog} slug={row.slug} name={row.name} onClose={() => setPlanning(false)} />
      )}
    </>
  );
}

interface CampaignRowProps {
  row: Row;
  blog: string;
  picked: boolean;
  onPick: (picked: boolean) => void;
}

/** A campaign: its purpose, its last run, and its posts. */
export function CampaignRow({ row, blog, picked, onPick }: CampaignRowProps) {
  const mode = MODE_WORDS[row.mode as Mode];
  return (
    <li
      className={`grid items-center gap-4 border-b border-line2 px-5 py-3 last:border-0 hover:bg-chalk ${COLUMNS}`}
    >
      <input
        type="checkbox"
        aria-label={`Pick ${row.name}`}
        checked={picked}
        onChange={(event) => onPick(event.target.checked)}
      />
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
      <div>
        <Pill tone={mode.tone}>{mode.words}</Pill>
      </div>
      <NextRun row={row} />
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
      <Actions row={row} blog={blog} />
    </li>
  );
}
