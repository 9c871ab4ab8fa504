import type { ReactNode } from "react";
import { Link } from "react-router";
import { count, plural } from "@/lib/format";

export interface ReadLine {
  key: string;
  name: string;
  /** Where it leads; nowhere for what has no screen any more. */
  to: string | null;
  /** What stands under the name. */
  under: ReactNode;
  reads: number;
}

interface ReadLinesProps {
  title: string;
  rows: readonly ReadLine[];
  total: number;
}

/** What was read, most first, each with its part of all reads. */
export function ReadLines({ title, rows, total }: ReadLinesProps) {
  return (
    <section aria-label={title} className="sheet-card min-w-0">
      <h2 className="border-line border-b px-4 py-2 text-sm">{title}</h2>
      <ol>
        {rows.map((row) => {
          const part = Math.round((100 * row.reads) / Math.max(1, total));
          return (
            <li
              key={row.key}
              className="flex items-baseline gap-3 border-line2 border-t px-4 py-2 first:border-0"
            >
              <span className="min-w-0 flex-1">
                {row.to ? (
                  <Link className="block truncate font-medium hover:text-verd" to={row.to} title={row.name}>
                    {row.name}
                  </Link>
                ) : (
                  <span className="block truncate font-medium">{row.name}</span>
                )}
                <span className="block truncate text-[11.5px] text-ink3">{row.under}</span>
              </span>
              <span className="shrink-0 text-ink3 text-xs tabular-nums" title="Part of all reads">
                {part}%
              </span>
              <span className="w-14 shrink-0 text-right tabular-nums" title={plural(row.reads, "read")}>
                {count(row.reads)}
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
