import { useQuery } from "@tanstack/react-query";
import { ProblemError } from "@/api/client";
import { type Schedule, timesQuery } from "@/api/schedules";
import { useSettled } from "@/lib/useSettled";

interface NextTimesProps {
  blog: string;
  schedule: Schedule;
  timeZone: string;
}

function shown(iso: string, timeZone: string): string {
  return new Intl.DateTimeFormat("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
    timeZone,
  }).format(new Date(iso));
}

function words(error: Error): string {
  const [fault] = error instanceof ProblemError ? error.faults : [];
  return fault ? fault.message : error.message;
}

/** The next five times of an unsaved schedule, or its fault. */
export function NextTimes({ blog, schedule, timeZone }: NextTimesProps) {
  const settled = useSettled(schedule);
  const found = useQuery(timesQuery(blog, settled, timeZone));
  if (found.error)
    return (
      <p role="alert" className="font-medium text-madder">
        {words(found.error)}
      </p>
    );
  if (schedule.when.kind === "hand" || !found.data) return null;
  const { times, time_zone: zone } = found.data;
  return (
    <section aria-label="Next times" aria-live="polite">
      <h3 className="text-sm">Next times</h3>
      {times.length === 0 ? (
        <p className="text-ochre">There is no time left: look at the days above.</p>
      ) : (
        <ol className="mt-1 text-ink2">
          {times.map((time) => (
            <li key={time}>{shown(time, zone)}</li>
          ))}
        </ol>
      )}
      <p className="mt-1 text-xs text-ink3">
        It begins within a minute of each time, so that not all campaigns begin in one second.
      </p>
    </section>
  );
}
