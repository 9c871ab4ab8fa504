import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { todayQuery } from "@/api/today";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { plural } from "@/lib/format";
import { Scroll } from "@/ui/Scroll";
import { DayChart } from "./DayChart";
import { FirstSteps, isNew } from "./FirstSteps";
import { Latest } from "./Latest";
import { Needs } from "./Needs";
import { TimeLine } from "./TimeLine";
import { TodayReads } from "./TodayReads";
import { TodaySources } from "./TodaySources";

function longDay(iso: string, timeZone: string): string {
  return new Intl.DateTimeFormat("en-GB", {
    weekday: "long",
    day: "numeric",
    month: "long",
    timeZone,
  }).format(new Date(iso));
}

/** The first screen: recent hours, upcoming ones, and tasks. */
export default function Today() {
  const { blog = "" } = useParams();
  const found = useQuery(todayQuery(blog));
  if (found.error && !found.data) return <ErrorNote error={found.error} onRetry={found.refetch} />;
  if (!found.data) return <Loading what="today" rows={8} />;
  const today = found.data;
  const { needs } = today;
  return (
    <div className="grid min-h-0 flex-1 lg:grid-cols-[minmax(0,1fr)_316px]">
      <title>Today · Glyptarch</title>
      <Scroll label="What happened" className="min-h-0 space-y-4 p-5">
        <div className="flex flex-wrap items-baseline gap-x-3.5">
          <h1 tabIndex={-1} className="text-[24px] outline-none">
            {longDay(today.now, today.time_zone)}
          </h1>
          <span className="text-ink3">
            {plural(today.out_today, "post")} out today ·{" "}
            {needs.length ? `${plural(needs.length, "thing")} to look at` : "nothing to look at"}
          </span>
        </div>
        {isNew(today) && <FirstSteps blog={blog} today={today} />}
        {today.campaigns > 0 && (
          <>
            <TimeLine blog={blog} today={today} />
            <div className="grid gap-4 xl:grid-cols-2">
              <Latest blog={blog} posts={today.latest} />
              <DayChart blog={blog} days={today.days} />
            </div>
          </>
        )}
      </Scroll>
      <Scroll label="What needs you" className="min-h-0 border-l border-line bg-sheet p-4">
        <Needs blog={blog} needs={needs} />
        <TodaySources blog={blog} sources={today.sources} />
        <TodayReads blog={blog} />
      </Scroll>
    </div>
  );
}
