import type { WordListRow } from "@/api/blogs";
import { WordList } from "@/ui/WordList";
import { ListChips } from "../ListChips";
import type { SentenceProps, StepOf } from "./types";

interface DropSentenceProps extends SentenceProps<"drop_paragraphs"> {
  saved: StepOf<"drop_paragraphs"> | undefined;
  lists: readonly WordListRow[];
}

export function DropSentence({ step, saved, lists, onChange }: DropSentenceProps) {
  return (
    <>
      <span className="font-medium">Remove paragraphs</span> that hold{" "}
      <WordList
        label="Terms"
        atLeastOne={step.lists.length === 0}
        values={step.terms}
        added={new Set(step.terms.filter((term) => saved && !saved.terms.includes(term)))}
        onChange={(terms) => onChange({ ...step, terms })}
      />{" "}
      <ListChips
        lists={lists}
        chosen={step.lists}
        mayBeEmpty={step.terms.length > 0}
        onChange={(keys) => onChange({ ...step, lists: keys })}
      />
    </>
  );
}
