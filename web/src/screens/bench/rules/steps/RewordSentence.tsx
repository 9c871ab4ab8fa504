import type { TermTableRow } from "@/api/blogs";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { PLACES } from "./places";
import { TableWords } from "./TableWords";
import type { SentenceProps } from "./types";

const HEADINGS = [
  { value: "stay", label: "stay" },
  { value: "reworded", label: "are reworded" },
] as const;

interface RewordSentenceProps extends SentenceProps<"reword"> {
  blog: string;
  tables: readonly TermTableRow[];
}

export function RewordSentence({ blog, step, tables, onChange }: RewordSentenceProps) {
  return (
    <>
      <span className="font-medium">Reword</span>{" "}
      {step.of === "body" && (
        <WordSelect
          label="Where"
          value={step.where}
          options={PLACES}
          onChange={(where) => onChange({ ...step, where })}
        />
      )}{" "}
      by the synonyms of{" "}
      <TableWords
        blog={blog}
        tables={tables}
        chosen={step.tables}
        onChange={(next) => onChange({ ...step, tables: next })}
      />
      , at most{" "}
      <WordNumber
        label="Share of words"
        value={step.percent}
        max={100}
        onChange={(percent) => onChange({ ...step, percent })}
      />{" "}
      % of the words; names, quotations and links stay
      {step.of === "body" && step.where !== "title" && (
        <>
          , headings{" "}
          <WordSelect
            label="Headings"
            value={step.headings ? "reworded" : "stay"}
            options={HEADINGS}
            onChange={(headings) => onChange({ ...step, headings: headings === "reworded" })}
          />
        </>
      )}
    </>
  );
}
