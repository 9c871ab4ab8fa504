import { WordLine } from "@/ui/WordLine";
import { WordSelect } from "@/ui/WordSelect";
import type { SentenceProps } from "./types";

const MODES = [
  { value: "remove", label: "Remove" },
  { value: "keep", label: "Keep only" },
] as const;

export function SelectSentence({
  step,
  fault,
  onChange,
}: SentenceProps<"select"> & { fault?: string | undefined }) {
  return (
    <>
      <WordSelect
        label="What happens"
        value={step.mode}
        options={MODES}
        onChange={(mode) => onChange({ ...step, mode })}
      />{" "}
      elements found by
      <WordLine
        label="Selector"
        hint="CSS, or XPath when it begins with /"
        value={step.selector}
        fault={fault}
        onChange={(selector) => onChange({ ...step, selector })}
      />
    </>
  );
}
