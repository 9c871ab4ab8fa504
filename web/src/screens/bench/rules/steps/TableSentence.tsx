import type { TermTableRow } from "@/api/blogs";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordSelect } from "@/ui/WordSelect";
import { PLACES } from "./places";
import { TableWords } from "./TableWords";
import type { SentenceProps } from "./types";

interface TableSentenceProps extends SentenceProps<"table"> {
  blog: string;
  tables: readonly TermTableRow[];
}

export function TableSentence({ blog, step, tables, onChange }: TableSentenceProps) {
  return (
    <>
      <span className="font-medium">Replace by table</span>{" "}
      <TableWords
        blog={blog}
        tables={tables}
        chosen={step.tables}
        onChange={(next) => onChange({ ...step, tables: next })}
      />{" "}
      {step.of === "body" && (
        <WordSelect
          label="Where"
          value={step.where}
          options={PLACES}
          onChange={(where) => onChange({ ...step, where })}
        />
      )}
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
