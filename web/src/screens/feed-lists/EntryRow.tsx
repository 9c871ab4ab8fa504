import { Link } from "react-router";
import type { ListEntry } from "@/api/feed-lists";
import { desk } from "@/lib/blog-path";
import { entryReason, OUTCOMES } from "@/lib/feed-list";
import { plural } from "@/lib/format";
import { Lozenge } from "@/ui/Lozenge";
import { Pill } from "@/ui/Pill";

/** An entry of a list: its source, and why it could not be read. */
export function EntryRow({ blog, entry }: { blog: string; entry: ListEntry }) {
  const { name, mark } = OUTCOMES[entry.outcome];
  const reason = entryReason(entry);
  return (
    <li className="grid grid-cols-[16px_minmax(0,1fr)_minmax(0,340px)] items-start gap-4 border-t border-line2 px-5 py-2.5 first:border-0">
      <span className="pt-1">
        <Lozenge kind={mark} label={name} />
      </span>
      <div className="min-w-0">
        {entry.source ? (
          <Link className="font-semibold hover:text-verd" to={desk.source(blog, entry.source)}>
            {entry.title || entry.url}
          </Link>
        ) : (
          <span className="font-semibold">{entry.title || `Entry ${entry.place}`}</span>
        )}{" "}
        {entry.labels.map((label) => (
          <Pill key={label}>{label}</Pill>
        ))}
        <p className="truncate text-[11.5px] text-ink3">{entry.url || "no address"}</p>
      </div>
      <p className="text-xs">
        {name}
        {entry.outcome === "read" && `, ${plural(entry.items, "item")}`}
        {reason && (
          <span className="block text-ink3">
            {reason} {entry.remedy}
          </span>
        )}
      </p>
    </li>
  );
}
