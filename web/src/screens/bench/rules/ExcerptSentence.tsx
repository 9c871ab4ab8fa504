import type { CampaignDocument } from "@/api/campaigns";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";

type Excerpt = CampaignDocument["shape"]["excerpt"];

const UNITS = [
  { value: "words", label: "words" },
  { value: "sentences", label: "sentences" },
  { value: "paragraphs", label: "paragraphs" },
  { value: "characters", label: "characters" },
] as const;
const TELLING_UNITS = UNITS.slice(0, 2);
const CHOICES = [
  { value: "first", label: "first" },
  { value: "telling", label: "most telling" },
] as const;
const ORIGINS = [
  { value: "text", label: "text" },
  { value: "summary", label: "summary" },
] as const;

export function ExcerptSentence({
  excerpt,
  onChange,
}: {
  excerpt: Excerpt;
  onChange: (excerpt: Excerpt) => void;
}) {
  return (
    <>
      <span className="font-medium">Excerpt</span>: the{" "}
      <WordSelect
        label="Which sentences"
        value={excerpt.choice}
        options={CHOICES}
        onChange={(choice) =>
          onChange({
            ...excerpt,
            choice,
            // The most telling sentences are counted in words or sentences.
            unit:
              choice === "telling" && excerpt.unit !== "words" && excerpt.unit !== "sentences"
                ? "sentences"
                : excerpt.unit,
          })
        }
      />{" "}
      <WordNumber
        label="How many"
        value={excerpt.count}
        max={1000}
        onChange={(count) => onChange({ ...excerpt, count })}
      />{" "}
      <WordSelect
        label="Unit"
        value={excerpt.unit}
        options={excerpt.choice === "telling" ? TELLING_UNITS : UNITS}
        onChange={(unit) => onChange({ ...excerpt, unit })}
      />{" "}
      of the{" "}
      <WordSelect
        label="Taken from"
        value={excerpt.taken_from}
        options={ORIGINS}
        onChange={(taken_from) => onChange({ ...excerpt, taken_from })}
      />
      , cut with{" "}
      <WordText
        label="Ellipsis"
        value={excerpt.ellipsis}
        known={["…", " […]", " —"]}
        placeholder="nothing"
        onChange={(ellipsis) => onChange({ ...excerpt, ellipsis: ellipsis.slice(0, 20) })}
      />
    </>
  );
}
