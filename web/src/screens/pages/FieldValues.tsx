import type { ArticleTest } from "@/api/pages";
import { Button } from "@/ui/Button";
import { partName } from "./document";

const SHOWN = 3;

const WAYS: Record<string, string> = {
  stated: "stated for programs",
  found: "by the structure",
  carried: "in the page’s data",
};

interface FieldValuesProps {
  rows: readonly ArticleTest[];
  fields: readonly string[];
  onPoint: (url: string, field: string) => void;
}

function waysOf(rows: readonly ArticleTest[], field: string): string[] {
  const ways = rows.map(({ cells }) => cells[field]?.way ?? "").filter(Boolean);
  return [...new Set(ways)];
}

/** Each field of a site: its values in three articles, where they stand, and in how many articles it is found. */
export function FieldValues({ rows, fields, onPoint }: FieldValuesProps) {
  const read = rows.filter(({ error, kind }) => !error && kind === "article");
  const first = read[0];
  if (!first) return null;
  const shown = read.slice(0, SHOWN);
  return (
    <table className="w-full table-fixed text-left text-xs">
      <thead>
        <tr className="border-b border-line text-ink3">
          <th className="w-[76px] py-1.5 pr-2 font-medium">Field</th>
          {shown.map((row, place) => (
            <th key={row.url} className="px-1.5 py-1.5 font-medium">
              Article {place + 1}
            </th>
          ))}
          <th className="w-[92px] px-1.5 py-1.5 font-medium">Where it stands</th>
          <th className="w-[58px] px-1.5 py-1.5 font-medium">Found in</th>
          <th className="w-[70px] py-1.5" aria-label="Point instead" />
        </tr>
      </thead>
      <tbody>
        {fields.map((field) => {
          const found = read.filter(({ cells, words }) =>
            field === "text" ? words > 0 : cells[field]?.value,
          ).length;
          return (
            <tr key={field} className="border-b border-line2 align-top">
              <th className="py-1.5 pr-2 font-semibold">{partName(field)}</th>
              {shown.map((row) => {
                const cell = row.cells[field];
                const value =
                  field === "text" ? `${row.words.toLocaleString("en")} words` : (cell?.value ?? "");
                const shortened = field === "picture" ? value.replace(/^.*\//, "") : value;
                return (
                  <td key={row.url} title={value} className="px-1.5 py-1.5">
                    <span className={value ? "line-clamp-2 [overflow-wrap:anywhere]" : "text-ink3"}>
                      {shortened || "none"}
                    </span>
                  </td>
                );
              })}
              <td className="px-1.5 py-1.5 text-ink2 [overflow-wrap:anywhere]">
                {waysOf(read, field)
                  .map((way) => WAYS[way] ?? way)
                  .join("; ") || "nowhere"}
              </td>
              <td
                className={found < read.length ? "px-1.5 py-1.5 text-ochre" : "px-1.5 py-1.5 text-verd-deep"}
              >
                {found} of {read.length}
              </td>
              <td className="py-1">
                <Button onClick={() => onPoint(first.url, field)} aria-label={`Point at ${partName(field)}`}>
                  Point
                </Button>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
