import { addTermTable, changeTermTable, type TermTableRow } from "@/api/blogs";
import { KeptForm } from "./KeptForm";

interface TermTableFormProps {
  blog: string;
  table: TermTableRow | null;
  onDone: () => void;
}

export function TermTableForm({ blog, table, onDone }: TermTableFormProps) {
  return (
    <KeptForm
      blog={blog}
      begun={{ name: table?.name ?? "", text: table?.text ?? "" }}
      label="Lines"
      hint="CSV, a line for each term: what is looked for, what stands in its place, where it leads. The second or third may be empty."
      what="table"
      save={(body) => (table ? changeTermTable(blog, table.key, body) : addTermTable(blog, body))}
      onDone={onDone}
    />
  );
}
