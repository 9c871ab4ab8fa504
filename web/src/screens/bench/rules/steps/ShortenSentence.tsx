import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import type { SentenceProps } from "./types";

const PARTS = [
  { value: "body", label: "body" },
  { value: "title", label: "title" },
] as const;
const UNITS = [
  { value: "words", label: "words" },
  { value: "sentences", label: "sentences" },
  { value: "paragraphs", label: "paragraphs" },
  { value: "characters", label: "characters" },
] as const;

export function ShortenSentence({ step, onChange }: SentenceProps<"shorten">) {
  return (
    <>
      <span className="font-medium">Cut the</span>{" "}
      {step.of === "body" ? (
        <WordSelect
          label="Part"
          value={step.part}
          options={PARTS}
          onChange={(part) => onChange({ ...step, part })}
        />
      ) : (
        "text"
      )}{" "}
      at{" "}
      <WordNumber
        label="How many"
        value={step.count}
        max={100_000}
        onChange={(count) => onChange({ ...step, count })}
      />{" "}
      <WordSelect
        label="Unit"
        value={step.unit}
        options={UNITS}
        onChange={(unit) => onChange({ ...step, unit })}
      />
      {(step.unit === "words" || step.unit === "characters") && (
        <>
          {" "}
          and end it with{" "}
          <WordText
            label="Ellipsis"
            value={step.ellipsis}
            known={[]}
            placeholder="nothing"
            longest={20}
            onChange={(ellipsis) => onChange({ ...step, ellipsis })}
          />
        </>
      )}
    </>
  );
}
