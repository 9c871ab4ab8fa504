import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { alikeQuery } from "@/api/review";
import { ErrorNote } from "@/components/ErrorNote";
import { StateMark } from "@/components/StateMark";
import { desk } from "@/lib/blog-path";
import { moment } from "@/lib/format";

/** Similar posts with the common passages. */
export function AlikePosts({ blog, id }: { blog: string; id: number }) {
  const alike = useQuery(alikeQuery(blog, id));
  if (alike.error) return <ErrorNote error={alike.error} onRetry={alike.refetch} />;
  if (!alike.data) return null;
  return (
    <section aria-label="Like it" className="mt-4">
      <h3 className="font-semibold">Like it</h3>
      {alike.data.length === 0 && (
        <p className="text-xs text-ink3">No post on this blog shares much of its text.</p>
      )}
      <ul className="space-y-3">
        {alike.data.map((one) => (
          <li key={one.id} className="text-xs">
            <p className="flex items-baseline gap-2">
              <Link
                className="min-w-0 flex-1 truncate font-medium hover:text-verd"
                to={desk.post(blog, one.id)}
              >
                {one.title}
              </Link>
              <span className="font-semibold text-indigo tabular-nums">
                {Math.round(one.likeness * 100)} %
              </span>
            </p>
            <p className="flex items-center gap-2 text-ink3">
              <StateMark state={one.state} /> {one.source} · {moment(one.date)}
            </p>
            {one.passages.map((passage) => (
              <p key={passage} className="mt-1">
                <mark className="line-clamp-3">{passage}</mark>
              </p>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
