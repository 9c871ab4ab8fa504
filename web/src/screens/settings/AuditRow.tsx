import type { AuditEntry } from "@/api/blogs";
import { actionWords, type Change, changesOf } from "@/lib/audit";
import { moment } from "@/lib/format";

function ChangeLine({ change }: { change: Change }) {
  return (
    <p className="line-clamp-2 break-words text-xs text-ink2">
      {change.what && <span className="text-ink3">{change.what}: </span>}
      {change.before && <del className="text-ink3 no-underline">{change.before}</del>}
      {change.before && change.after && <span className="text-ink3"> → </span>}
      {change.after}
    </p>
  );
}

/** One action: time, person, subject, and values before and after. */
export function AuditRow({ entry }: { entry: AuditEntry }) {
  return (
    <li className="grid grid-cols-[130px_minmax(0,1fr)] gap-4 border-t border-line2 px-5 py-2 first:border-0">
      <time className="text-xs text-ink3" dateTime={entry.at}>
        {moment(entry.at)}
      </time>
      <div className="min-w-0">
        <p className="truncate">
          <span className="font-semibold">{entry.name || "The system"}</span> {actionWords(entry.action)}{" "}
          <span className="font-medium">{entry.subject}</span>
        </p>
        {changesOf(entry.before, entry.after).map((change) => (
          <ChangeLine key={change.what} change={change} />
        ))}
      </div>
    </li>
  );
}
