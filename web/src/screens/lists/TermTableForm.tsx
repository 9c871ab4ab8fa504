import { useMemo } from "react";
import { addTermTable, changeTermTable, type TermTableRow } from "@/api/blogs";
import type { Version } from "@/lib/editing/document";
import { KeptForm, type KeptValues } from "./KeptForm";

interface TermTableFormProps {
  blog: string;
  table: TermTableRow | null;
  onDone: () => void;
}

/** A table as the form shows it. */
function versionOf(table: TermTableRow | null): Version<KeptValues> {
  return { number: table?.version ?? 0, value: { name: table?.name ?? "", text: table?.text ?? "" } };
}

export function TermTableForm({ blog, table, onDone }: TermTableFormProps) {
  const begun = useMemo(() => versionOf(table), [table]);
  return (
    <KeptForm
      blog={blog}
      listKey={table?.key ?? ""}
      begun={begun}
      label="Lines"
      hint="CSV, a line for each term: what is looked for, what stands in its place, where it leads. The second or third may be empty."
      what="table"
      save={async (body, version) => {
        const kept = await (table
          ? changeTermTable(blog, table.key, { ...body, version })
          : addTermTable(blog, body));
        return { key: kept.key, version: versionOf(kept) };
      }}
      onDone={onDone}
    />
  );
}
