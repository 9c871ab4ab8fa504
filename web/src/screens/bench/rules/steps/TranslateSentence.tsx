import type { TermTableRow } from "@/api/blogs";
import { ServiceWords } from "@/components/words/ServiceWords";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import { GlossaryWords } from "./GlossaryWords";
import { PLACES } from "./places";
import type { SentenceProps } from "./types";

const LANGUAGES = ["ar", "de", "en", "es", "fr", "it", "ja", "nl", "pl", "pt", "ru", "uk", "zh"] as const;

interface TranslateSentenceProps extends SentenceProps<"translate"> {
  blog: string;
  tables: readonly TermTableRow[];
  fault?: string | undefined;
}

export function TranslateSentence({ blog, step, tables, fault, onChange }: TranslateSentenceProps) {
  return (
    <>
      <span className="font-medium">Translate</span>{" "}
      {step.of === "body" && (
        <WordSelect
          label="Where"
          value={step.where}
          options={PLACES}
          onChange={(where) => onChange({ ...step, where })}
        />
      )}{" "}
      into{" "}
      <WordText
        label="Language"
        value={step.to}
        known={LANGUAGES}
        placeholder="de"
        longest={20}
        onChange={(to) => onChange({ ...step, to })}
      />{" "}
      by{" "}
      <ServiceWords
        blog={blog}
        task="translate"
        chosen={step.services}
        onChange={(services) => onChange({ ...step, services })}
      />
      <GlossaryWords
        tables={tables}
        chosen={step.glossary}
        onChange={(glossary) => onChange({ ...step, glossary })}
      />
      {fault && (
        <span role="alert" className="block text-xs text-madder">
          {fault}
        </span>
      )}
    </>
  );
}
