import type { SiftRule } from "@/api/campaigns";
import { WordList } from "@/ui/WordList";
import { WordSelect } from "@/ui/WordSelect";

type TermsRule = Extract<SiftRule, { kind: "terms" }>;

interface TermsSentenceProps {
  rule: TermsRule;
  saved: TermsRule | undefined;
  onChange: (rule: TermsRule) => void;
}

const FIELDS = [
  { value: "title_or_text", label: "Title or text" },
  { value: "title", label: "Title" },
  { value: "text", label: "Text" },
  { value: "summary", label: "Summary" },
] as const;
const MODES = [
  { value: "any", label: "any of" },
  { value: "all", label: "all of" },
  { value: "none", label: "none of" },
] as const;

export function TermsSentence({ rule, saved, onChange }: TermsSentenceProps) {
  const added = new Set(rule.terms.filter((term) => saved && !saved.terms.includes(term)));
  return (
    <>
      <WordSelect
        label="Field"
        value={rule.field}
        options={FIELDS}
        onChange={(field) => onChange({ ...rule, field })}
      />{" "}
      has{" "}
      <WordSelect
        label="How many"
        value={rule.mode}
        options={MODES}
        tone={rule.mode === "none" ? "madder" : "verd"}
        onChange={(mode) => onChange({ ...rule, mode })}
      />{" "}
      <WordList
        label="Terms"
        atLeastOne
        values={rule.terms}
        added={added}
        onChange={(terms) => onChange({ ...rule, terms })}
      />
    </>
  );
}
