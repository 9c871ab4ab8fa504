import { Link } from "react-router";
import type { Line, Today } from "@/api/today";
import { desk } from "@/lib/blog-path";
import { count, plural } from "@/lib/format";
import { scheduleWords } from "@/lib/schedule";
import { Lozenge } from "@/ui/Lozenge";

const HOUR = 3_600_000;
/** A tick on the scale every so many hours. */
const TICK = 6;
/** Pixels of the tallest mark, and of a run that made nothing. */
const TALLEST = 24;
const LEAST = 3;
const GRID = "grid grid-cols-[190px_minmax(0,1fr)_72px] items-center gap-4";

function clock(iso: string | Date, timeZone: string): string {
  return new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone }).format(
    new Date(iso),
  );
}

/** The full hours in the blog's time zone on the scale. */
function ticks(today: Today): Date[] {
  const first = Math.ceil(Date.parse(today.since) / HOUR) * HOUR;
  const all: Date[] = [];
  for (let at = first; at <= Date.parse(today.until); at += HOUR) all.push(new Date(at));
  return all.filter((one) => Number(clock(one, today.time_zone).slice(0, 2)) % TICK === 0);
}

interface Hour {
  at: string;
  /** The last run of the hour. */
  run: number;
  runs: number;
  posts: number;
  failed: boolean;
}

/** Runs of one hour as one mark, because closer marks cannot be clicked. */
function byHour(runs: Line["runs"], since: string): Hour[] {
  const hours = new Map<number, Hour>();
  for (const one of runs) {
    const place = Math.floor((Date.parse(one.at) - Date.parse(since)) / HOUR);
    const middle = new Date(Date.parse(since) + (place + 0.5) * HOUR).toISOString();
    const before = hours.get(place) ?? { at: middle, run: one.run, runs: 0, posts: 0, failed: false };
    hours.set(place, {
      at: middle,
      run: one.run,
      runs: before.runs + 1,
      posts: before.posts + one.posts,
      failed: before.failed || one.failed,
    });
  }
  return [...hours.values()];
}

function hourWords({ runs, posts, failed }: Hour): string {
  const made = `${plural(posts, "post")} by ${plural(runs, "run")}`;
  return failed ? `${made}, with a failure` : made;
}

interface RowProps {
  blog: string;
  line: Line;
  today: Today;
  /** The position of a moment in per cent of the width. */
  at: (iso: string) => number;
  /** The number of posts of the tallest mark. */
  most: number;
}

function Row({ blog, line, today, at, most }: RowProps) {
  const timeZone = today.time_zone;
  return (
    <li className={`${GRID} border-t border-line2 py-2`}>
      <div className="min-w-0">
        <Link className="block truncate font-medium hover:text-verd" to={desk.bench(blog, line.slug)}>
          {line.name}
        </Link>
        <span className={line.paused ? "text-xs text-ochre" : "text-xs text-ink3"}>
          {line.paused ? "paused" : scheduleWords(line.schedule)}
        </span>
      </div>
      <div className="relative h-8">
        {byHour(line.runs, today.since).map((hour) => (
          <Link
            key={hour.run}
            to={desk.run(blog, hour.run)}
            aria-label={`${clock(hour.at, timeZone)}: ${hourWords(hour)}`}
            title={hourWords(hour)}
            className="absolute bottom-0 flex h-8 w-6 -translate-x-1/2 items-end justify-center"
            style={{ left: `${at(hour.at)}%` }}
          >
            <span
              className={`w-[7px] rounded-[2px] ${hour.failed ? "bg-madder" : "bg-verd"}`}
              style={{ height: LEAST + (TALLEST * hour.posts) / Math.max(most, 1) }}
            />
          </Link>
        ))}
        {line.next.map((time) => (
          <span
            key={time}
            className="absolute bottom-0 -translate-x-1/2 text-ink3"
            style={{ left: `${at(time)}%` }}
            title={`planned for ${clock(time, timeZone)}`}
          >
            <Lozenge kind="waiting" label={`planned for ${clock(time, timeZone)}`} />
          </span>
        ))}
      </div>
      <div className="text-right">
        <span className="text-base font-semibold">{count(line.made)}</span>
        {line.held > 0 && <p className="text-xs text-ochre">{line.held} held</p>}
      </div>
    </li>
  );
}

/** Past and future hours by campaign: a mark is an hour with runs, its height their posts. */
export function TimeLine({ blog, today }: { blog: string; today: Today }) {
  const [since, until] = [Date.parse(today.since), Date.parse(today.until)];
  const at = (iso: string) => ((Date.parse(iso) - since) / (until - since)) * 100;
  const most = Math.max(
    0,
    ...today.lines.flatMap(({ runs }) => byHour(runs, today.since).map(({ posts }) => posts)),
  );
  const now = at(today.now);
  return (
    <section aria-label="Time line" className="sheet-card px-4 pt-2 pb-1">
      <div className={`${GRID} text-xs text-ink3`} aria-hidden="true">
        <span />
        <div className="relative h-5">
          {ticks(today).map((tick) => (
            <span
              key={tick.getTime()}
              className="absolute -translate-x-1/2"
              style={{ left: `${at(tick.toISOString())}%` }}
            >
              {clock(tick, today.time_zone)}
            </span>
          ))}
        </div>
        <span className="text-right">today</span>
      </div>
      <div className="relative">
        <div className={`${GRID} pointer-events-none absolute inset-0`} aria-hidden="true">
          <span />
          <div className="relative h-full">
            <div className="absolute inset-y-0 right-0 bg-chalk" style={{ left: `${now}%` }} />
            <div className="absolute inset-y-0 w-0.5 bg-ink" style={{ left: `${now}%` }} />
          </div>
        </div>
        <ol aria-label="Campaigns" className="relative">
          {today.lines.map((line) => (
            <Row key={line.slug} blog={blog} line={line} today={today} at={at} most={most} />
          ))}
        </ol>
      </div>
      {today.campaigns > today.lines.length && (
        <p className="border-t border-line2 py-2 text-xs">
          <Link className="font-semibold text-verd" to={desk.campaigns(blog)}>
            All {today.campaigns} campaigns
          </Link>
        </p>
      )}
    </section>
  );
}
