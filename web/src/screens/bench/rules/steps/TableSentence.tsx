import { Link } from "react-router";
import type { TermTableRow } from "@/api/blogs";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordSelect } from "@/ui/WordSelect";
import { WordToggle } from "@/ui/WordToggle";
import type { SentenceProps } from "./types";

const PLACES = [
  { value: "body", label: "in the body" },
  { value: "title", label: "in the title" },
  { value: "both", label: "in title and body" },
] as const;

interface TableSentenceProps extends SentenceProps<"table"> {
  blog: string;
  tables: readonly TermTableRow[];
}

export function TableSentence({ blog, step, tables, onChange }: TableSentenceProps) {
  const known = step.tables.filter((key) => tables.some((table) => table.key === key));
  function toggle(key: string, on: boolean) {
    const next = on ? [...known, key] : known.filter((other) => other !== key);
    if (next.length) onChange({ ...step, tables: next });
  }
  return (
    <>
      <span className="font-medium">Replace by table</span>{" "}
      {tables.map((table) => (
        <WordToggle
          key={table.key}
          label={`${table.name} (${plural(table.lines, "line")})`}
          on={known.includes(table.key)}
          onChange={(on) => toggle(table.key, on)}
        />
      ))}
      {tables.length === 0 && (
        <Link className="font-semibold text-verd" to={desk.lists(blog)}>
          Make a table of terms first
        </Link>
      )}{" "}
      <WordSelect
        label="Where"
        value={step.where}
        options={PLACES}
        onChange={(where) => onChange({ ...step, where })}
      />
      , each{" "}
      <OptionalNumber
        label="How often"
        value={step.first ?? null}
        none="every time"
        usual={1}
        max={1000}
        unit="times at most"
        onChange={(first) => onChange({ ...step, first })}
      />
    </>
  );
}
