import type { SiftRule } from "@/api/campaigns";
import { WordLine } from "@/ui/WordLine";
import { WordSelect } from "@/ui/WordSelect";
import { FieldWord } from "./FieldWord";
import { TEXTS } from "./fields";

type PatternRule = Extract<SiftRule, { kind: "pattern" }>;

interface PatternSentenceProps {
  rule: PatternRule;
  fault?: string | undefined;
  onChange: (rule: PatternRule) => void;
}

const WANTED = [
  { value: "yes", label: "matches" },
  { value: "no", label: "does not match" },
] as const;
const CASES = [
  { value: "no", label: "whatever the case" },
  { value: "yes", label: "case matters" },
] as const;

export function PatternSentence({ rule, fault, onChange }: PatternSentenceProps) {
  return (
    <>
      <FieldWord
        options={TEXTS}
        field={rule.field}
        name={rule.name}
        onChange={(field) => onChange({ ...rule, ...field })}
      />{" "}
      <WordSelect
        label="Wanted"
        value={rule.wanted ? "yes" : "no"}
        options={WANTED}
        tone={rule.wanted ? "verd" : "madder"}
        onChange={(wanted) => onChange({ ...rule, wanted: wanted === "yes" })}
      />{" "}
      the pattern,{" "}
      <WordSelect
        label="Case"
        value={rule.case_matters ? "yes" : "no"}
        options={CASES}
        onChange={(matters) => onChange({ ...rule, case_matters: matters === "yes" })}
      />
      <WordLine
        label="Pattern"
        hint="regular expression (RE2)"
        value={rule.pattern}
        fault={fault}
        onChange={(pattern) => onChange({ ...rule, pattern })}
      />
    </>
  );
}
