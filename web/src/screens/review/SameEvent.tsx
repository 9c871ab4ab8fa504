import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { sameEventQuery } from "@/api/review";
import { ErrorNote } from "@/components/ErrorNote";
import { StateMark } from "@/components/StateMark";
import { desk } from "@/lib/blog-path";
import { moment } from "@/lib/format";

/** Posts that may tell the same event in other words. Nothing is decided by it. */
export function SameEvent({ blog, id }: { blog: string; id: number }) {
  const events = useQuery(sameEventQuery(blog, id));
  if (events.error) return <ErrorNote error={events.error} onRetry={events.refetch} />;
  if (!events.data?.length) return null;
  return (
    <section aria-label="Perhaps the same event" className="mt-4">
      <h3 className="font-semibold">Perhaps the same event</h3>
      <ul className="space-y-3">
        {events.data.map((event) => (
          <li key={event.id} className="text-xs">
            <Link className="block truncate font-medium hover:text-verd" to={desk.post(blog, event.id)}>
              <bdi>{event.title}</bdi>
            </Link>
            <p className="flex items-center gap-2 text-ink3">
              <StateMark state={event.state} /> {event.source} · {moment(event.date)}
            </p>
            <p className="mt-1 text-ink2">
              In other words; both have <bdi>{event.words.join(", ")}</bdi>.
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}
