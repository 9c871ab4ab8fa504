import { WordList } from "@/ui/WordList";
import type { SentenceProps, StepOf } from "./types";

interface DropSentenceProps extends SentenceProps<"drop_paragraphs"> {
  saved: StepOf<"drop_paragraphs"> | undefined;
}

export function DropSentence({ step, saved, onChange }: DropSentenceProps) {
  return (
    <>
      <span className="font-medium">Take out paragraphs</span> that hold{" "}
      <WordList
        label="Terms"
        atLeastOne
        values={step.terms}
        added={new Set(step.terms.filter((term) => saved && !saved.terms.includes(term)))}
        onChange={(terms) => onChange({ ...step, terms })}
      />
    </>
  );
}
