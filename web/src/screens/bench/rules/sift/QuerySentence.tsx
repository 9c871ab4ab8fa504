import type { SiftRule } from "@/api/campaigns";
import { WordLine } from "@/ui/WordLine";
import { FieldWord } from "./FieldWord";
import { TEXTS } from "./fields";

type QueryRule = Extract<SiftRule, { kind: "query" }>;

interface QuerySentenceProps {
  rule: QueryRule;
  fault?: string | undefined;
  onChange: (rule: QueryRule) => void;
}

export function QuerySentence({ rule, fault, onChange }: QuerySentenceProps) {
  return (
    <>
      <FieldWord
        options={TEXTS}
        field={rule.field}
        name={rule.name}
        onChange={(field) => onChange({ ...rule, ...field })}
      />{" "}
      answers the search
      <WordLine
        label="Search"
        hint={'"quoted phrase", OR, -without, #tag, word*, ( )'}
        value={rule.query}
        fault={fault}
        onChange={(query) => onChange({ ...rule, query })}
      />
    </>
  );
}
