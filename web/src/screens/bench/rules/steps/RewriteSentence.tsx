import type { TermTableRow } from "@/api/blogs";
import { ServiceWords } from "@/components/words/ServiceWords";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { GlossaryWords } from "./GlossaryWords";
import { PLACES } from "./places";
import type { SentenceProps } from "./types";

const TASKS = [
  { value: "reword", label: "in other words" },
  { value: "summarise", label: "in fewer words" },
] as const;

interface RewriteSentenceProps extends SentenceProps<"rewrite"> {
  blog: string;
  tables: readonly TermTableRow[];
}

export function RewriteSentence({ blog, step, tables, onChange }: RewriteSentenceProps) {
  return (
    <>
      <span className="font-medium">Rewrite</span>{" "}
      <WordSelect
        label="How"
        value={step.task}
        options={TASKS}
        onChange={(task) => onChange({ ...step, task })}
      />{" "}
      {step.task === "summarise" ? (
        <>
          , at most{" "}
          <WordNumber
            label="Words"
            value={step.words}
            min={20}
            max={1000}
            onChange={(words) => onChange({ ...step, words })}
          />
        </>
      ) : (
        step.of === "body" && (
          <WordSelect
            label="Where"
            value={step.where}
            options={PLACES}
            onChange={(where) => onChange({ ...step, where })}
          />
        )
      )}{" "}
      by{" "}
      <ServiceWords
        blog={blog}
        task={step.task}
        chosen={step.services}
        onChange={(services) => onChange({ ...step, services })}
      />
      <GlossaryWords
        tables={tables}
        chosen={step.glossary}
        onChange={(glossary) => onChange({ ...step, glossary })}
      />
    </>
  );
}
