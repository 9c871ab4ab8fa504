import type { SiftRule } from "@/api/campaigns";
import { WordList } from "@/ui/WordList";
import { WordSelect } from "@/ui/WordSelect";
import { FieldWord } from "./FieldWord";
import { UNKNOWNS, VALUE_FIELDS } from "./fields";

type ValuesRule = Extract<SiftRule, { kind: "values" }>;

interface ValuesSentenceProps {
  rule: ValuesRule;
  saved: ValuesRule | undefined;
  onChange: (rule: ValuesRule) => void;
}

const WANTED = [
  { value: "yes", label: "is one of" },
  { value: "no", label: "is none of" },
] as const;

export function ValuesSentence({ rule, saved, onChange }: ValuesSentenceProps) {
  return (
    <>
      <FieldWord
        options={VALUE_FIELDS}
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
      <WordList
        label="Values"
        atLeastOne
        values={rule.values}
        added={new Set(rule.values.filter((value) => saved && !saved.values.includes(value)))}
        onChange={(values) => onChange({ ...rule, values })}
      />{" "}
      where not stated it{" "}
      <WordSelect
        label="Where it is not stated"
        value={rule.unknown}
        options={UNKNOWNS}
        onChange={(unknown) => onChange({ ...rule, unknown })}
      />
    </>
  );
}
