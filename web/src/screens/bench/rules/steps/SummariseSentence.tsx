import { WordNumber } from "@/ui/WordNumber";
import type { SentenceProps } from "./types";

export function SummariseSentence({ step, onChange }: SentenceProps<"summarise">) {
  return (
    <>
      <span className="font-medium">Summarise</span>: keep the most telling sentences, at most{" "}
      <WordNumber
        label="Words"
        value={step.words}
        min={5}
        max={2000}
        onChange={(words) => onChange({ ...step, words })}
      />{" "}
      words
    </>
  );
}
