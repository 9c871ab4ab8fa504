import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import type { SentenceProps } from "./types";

const SIDES = [
  { value: "after", label: "after" },
  { value: "before", label: "before" },
] as const;
const BLOCKS = [
  { value: "with", label: "with that paragraph" },
  { value: "without", label: "but keep that paragraph" },
] as const;

export function CutSentence({ step, onChange }: SentenceProps<"cut">) {
  return (
    <>
      <span className="font-medium">Cut</span> everything{" "}
      <WordSelect
        label="Side"
        value={step.side}
        options={SIDES}
        onChange={(side) => onChange({ ...step, side })}
      />{" "}
      the phrase{" "}
      <WordText
        label="Phrase"
        value={step.phrase}
        known={[]}
        placeholder="phrase"
        longest={200}
        onChange={(phrase) => onChange({ ...step, phrase })}
      />
      ,{" "}
      <WordSelect
        label="Its paragraph"
        value={step.with_it ? "with" : "without"}
        options={BLOCKS}
        onChange={(block) => onChange({ ...step, with_it: block === "with" })}
      />
    </>
  );
}
