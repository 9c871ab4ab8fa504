import { removeTermTable, type TermTableRow } from "@/api/blogs";
import { plural } from "@/lib/format";
import { KeptCard } from "./KeptCard";
import { TermTableForm } from "./TermTableForm";

const SHOWN = 4;

/** A table of terms: what is looked for, what is put in its place, where it leads. */
export function TermTableCard({ blog, table }: { blog: string; table: TermTableRow }) {
  const lines = table.text.trim().split("\n").slice(0, SHOWN);
  return (
    <KeptCard
      blog={blog}
      name={table.name}
      size={plural(table.lines, "line")}
      what="table"
      remove={() => removeTermTable(blog, table.key)}
      form={(done) => <TermTableForm blog={blog} table={table} onDone={done} />}
    >
      <pre className="mt-2 overflow-hidden font-mono text-[11.5px] text-ink2">
        {lines.join("\n")}
        {table.lines > SHOWN && "\n…"}
      </pre>
    </KeptCard>
  );
}
