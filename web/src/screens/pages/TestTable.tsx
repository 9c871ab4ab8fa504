import clsx from "clsx";
import { useState } from "react";
import type { ArticleTest } from "@/api/pages";
import { Lozenge } from "@/ui/Lozenge";
import { partName } from "./document";

const KINDS: Record<string, string> = {
  consent: "a consent page: it asks before it shows anything",
  login: "a log-in page",
  paywall: "behind a pay-wall",
  error: "an error page",
  scripted: "drawn by scripts: without them it is empty",
};

const ODD: Record<string, string> = {
  short: "very short",
  future: "in the future",
  same: "the same on all pages",
  unreadable: "not read as a date",
};

interface TestTableProps {
  rows: readonly ArticleTest[];
  fields: readonly string[];
  onOpen: (url: string, field: string) => void;
}

function Cell({ row, field, usual }: { row: ArticleTest; field: string; usual: boolean }) {
  const cell = row.cells[field];
  if (field === "text") {
    const odd = cell?.odd;
    return (
      <span className={clsx("tabular-nums", (odd || !row.words) && "font-semibold text-madder")}>
        {row.words.toLocaleString("en")}
        {odd && <span className="block text-[11px]">{ODD[odd] ?? odd}</span>}
      </span>
    );
  }
  if (!cell?.value && !usual) return <Lozenge kind="idle" label={`No article has ${partName(field)}`} />;
  if (!cell?.value) return <Lozenge kind="refused" label={`${partName(field)} is missing`} />;
  if (cell.odd) {
    return (
      <span title={cell.value} className="inline-flex items-center gap-1 text-ochre">
        <Lozenge kind="hold" label={ODD[cell.odd] ?? cell.odd} />
      </span>
    );
  }
  return (
    <span title={`${cell.value} (${cell.way})`}>
      <Lozenge kind="publish" label={`${partName(field)} is fine`} />
    </span>
  );
}

/** Sample articles by field: values, gaps and doubts. */
export function TestTable({ rows, fields, onOpen }: TestTableProps) {
  const [shown, setShown] = useState<string | null>(null);
  const chosen = rows.find(({ url }) => url === shown);
  return (
    <>
      <table className="w-full text-left text-xs">
        <thead>
          <tr className="border-b border-line text-ink3">
            <th className="py-1.5 pr-2 font-medium">Article</th>
            {fields.map((field) => (
              <th key={field} className="px-1.5 py-1.5 font-medium">
                {field === "text" ? "Words" : partName(field)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.url} className="border-b border-line2">
              <td className="max-w-[220px] py-1.5 pr-2">
                <button
                  type="button"
                  className="block min-h-6 max-w-full truncate text-left font-medium hover:text-verd"
                  onClick={() => setShown(shown === row.url ? null : row.url)}
                  aria-expanded={shown === row.url}
                >
                  {row.cells.title?.value || row.url}
                </button>
                {(row.error || KINDS[row.kind]) && (
                  <span className="block text-madder">{row.error || KINDS[row.kind]}</span>
                )}
              </td>
              {fields.map((field) => (
                <td key={field} className="px-1.5 py-1.5">
                  <button
                    type="button"
                    disabled={Boolean(row.error)}
                    className="min-h-6 min-w-6"
                    title={`Show ${partName(field)} in the page`}
                    onClick={() => onOpen(row.url, field)}
                  >
                    <Cell row={row} field={field} usual={rows.some(({ cells }) => cells[field]?.value)} />
                  </button>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {chosen && (
        <div className="mt-3 rounded-[10px] border border-line p-3">
          <dl className="grid grid-cols-[90px_1fr] gap-x-3 gap-y-1 text-xs">
            {fields
              .filter((field) => field !== "text" && chosen.cells[field]?.value)
              .map((field) => (
                <div key={field} className="contents">
                  <dt className="text-ink3">{partName(field)}</dt>
                  <dd className="[overflow-wrap:anywhere]">
                    {chosen.cells[field]?.value}{" "}
                    <span className="font-mono text-ink3">{chosen.cells[field]?.way}</span>
                  </dd>
                </div>
              ))}
          </dl>
          <iframe
            title={`Text of ${chosen.cells.title?.value ?? chosen.url}`}
            sandbox=""
            srcDoc={chosen.html}
            className="mt-2 h-64 w-full rounded border border-line2 bg-white"
          />
        </div>
      )}
    </>
  );
}
