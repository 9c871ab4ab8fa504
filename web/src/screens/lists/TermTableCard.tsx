import { removeTermTable, type TermTableRow } from "@/api/blogs";
import type { ListUser } from "@/api/campaigns";
import { plural } from "@/lib/format";
import { KeptCard } from "./KeptCard";
import { TermTableForm } from "./TermTableForm";

const SHOWN = 4;

interface TermTableCardProps {
  blog: string;
  table: TermTableRow;
  /** The lines to show: the matches of a search, or all. */
  lines: readonly string[];
  users: readonly ListUser[];
}

/** A table of terms, replacements and links. */
export function TermTableCard({ blog, table, lines, users }: TermTableCardProps) {
  return (
    <KeptCard
      blog={blog}
      name={table.name}
      size={plural(table.lines, "line")}
      what="table"
      users={users}
      file={{ text: table.text, ending: "csv" }}
      remove={() => removeTermTable(blog, table.key)}
      form={(done) => <TermTableForm blog={blog} table={table} onDone={done} />}
    >
      <pre className="mt-2 overflow-hidden font-mono text-[11.5px] text-ink2">
        {lines.slice(0, SHOWN).join("\n")}
        {lines.length > SHOWN && "\n…"}
      </pre>
    </KeptCard>
  );
}
