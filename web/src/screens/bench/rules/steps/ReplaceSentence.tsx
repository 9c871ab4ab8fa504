import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordLine } from "@/ui/WordLine";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import { PLACES } from "./places";
import type { SentenceProps } from "./types";

const FINDS = [
  { value: "words", label: "the words" },
  { value: "pattern", label: "the pattern" },
] as const;
export function ReplaceSentence({
  step,
  fault,
  onChange,
}: SentenceProps<"replace"> & { fault?: string | undefined }) {
  return (
    <>
      <span className="font-medium">Replace</span>{" "}
      <WordSelect
        label="Found how"
        value={step.find}
        options={FINDS}
        onChange={(find) => onChange({ ...step, find })}
      />{" "}
      <WordText
        label="What"
        value={step.what}
        known={[]}
        placeholder="what"
        longest={300}
        onChange={(what) => onChange({ ...step, what })}
      />{" "}
      by{" "}
      <WordText
        label="By"
        value={step.by}
        known={[]}
        placeholder="nothing"
        longest={500}
        onChange={(by) => onChange({ ...step, by })}
      />{" "}
      {step.of === "body" && (
        <WordSelect
          label="Where"
          value={step.where}
          options={PLACES}
          onChange={(where) => onChange({ ...step, where })}
        />
      )}
      ,{" "}
      <OptionalNumber
        label="How often"
        value={step.first ?? null}
        none="every time"
        usual={1}
        max={1000}
        unit="times at most"
        onChange={(first) => onChange({ ...step, first })}
      />
      {step.of === "body" && (
        <WordLine
          label="As a link to"
          hint="leave empty for plain text; links, headings and code are spared"
          value={step.link}
          onChange={(link) => onChange({ ...step, link })}
        />
      )}
      {fault && (
        <span role="alert" className="block text-xs font-medium text-madder">
          {fault}
        </span>
      )}
    </>
  );
}
