import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Note } from "@/api/proofs";
import { type ReplayResult, replayValuesQuery } from "@/api/replay";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { Reason } from "@/components/Reason";
import { desk } from "@/lib/blog-path";
import { ChangedValue } from "@/screens/editor/ChangedValue";

interface ReplayRowProps {
  blog: string;
  slug: string;
  replay: number;
  row: ReplayResult;
  picked: boolean;
  onPick: ((on: boolean) => void) | null;
}

const named = (parts: readonly string[]) => parts.join(", ").replaceAll("_", " ");

/** One result: the changes, the reason of a refusal, and the edits that stay. */
export function ReplayRow({ blog, slug, replay, row, picked, onPick }: ReplayRowProps) {
  const [open, setOpen] = useState(false);
  const opens = row.outcome === "changed" || row.outcome === "new";
  return (
    <li className="border-t border-line2 px-4 py-2 first:border-0">
      <div className="flex items-center gap-3">
        {onPick && (
          <input
            type="checkbox"
            aria-label={`Choose ${row.title}`}
            className="accent-verd"
            checked={picked}
            onChange={({ target }) => onPick(target.checked)}
          />
        )}
        <p className="min-w-0 flex-1">
          {row.post ? (
            <Link className="block truncate font-medium hover:text-verd" to={desk.post(blog, row.post)}>
              {row.title}
            </Link>
          ) : (
            <span className="block truncate font-medium">{row.title}</span>
          )}
          <span className="block truncate text-xs text-ink3">
            {row.reason && (
              <Reason
                verdict={row.outcome === "duplicate" ? "duplicate" : "refused"}
                reason={row.reason as unknown as Note}
              />
            )}
            {row.parts.length > 0 && `changes ${named(row.parts)}`}
            {row.kept.length > 0 &&
              (row.kept.includes("state")
                ? " · stays, since it was edited by hand"
                : `${row.parts.length ? " · " : ""}edited by hand and left: ${named(row.kept)}`)}
          </span>
        </p>
        {opens && (
          <button
            type="button"
            aria-expanded={open}
            className="min-h-6 text-xs font-semibold text-verd hover:underline"
            onClick={() => setOpen(!open)}
          >
            {open ? "Hide" : "Differences"}
          </button>
        )}
      </div>
      {open && <Differences blog={blog} slug={slug} replay={replay} result={row.id} />}
    </li>
  );
}

interface DifferencesProps {
  blog: string;
  slug: string;
  replay: number;
  result: number;
}

function Differences({ blog, slug, replay, result }: DifferencesProps) {
  const values = useQuery(replayValuesQuery(blog, slug, replay, result));
  if (values.error) return <ErrorNote error={values.error} onRetry={values.refetch} />;
  if (!values.data) return <Loading what="the differences" />;
  const { before, after } = values.data;
  return (
    <dl className="mt-2 space-y-2 border-l-2 border-line2 pl-3 text-[12.5px]">
      {Object.keys(after)
        .filter((name) => name !== "spare_leads")
        .map((name) => (
          <ChangedValue key={name} name={name} before={before[name]} after={after[name]} />
        ))}
    </dl>
  );
}
