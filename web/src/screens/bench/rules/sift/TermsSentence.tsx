import type { WordListRow } from "@/api/blogs";
import type { SiftRule } from "@/api/campaigns";
import { WordList } from "@/ui/WordList";
import { WordSelect } from "@/ui/WordSelect";
import { ListChips } from "../ListChips";
import { FieldWord } from "./FieldWord";
import { TEXTS } from "./fields";

type TermsRule = Extract<SiftRule, { kind: "terms" }>;

interface TermsSentenceProps {
  rule: TermsRule;
  saved: TermsRule | undefined;
  lists: readonly WordListRow[];
  onChange: (rule: TermsRule) => void;
}

const MODES = [
  { value: "any", label: "any of" },
  { value: "all", label: "all of" },
  { value: "none", label: "none of" },
] as const;
const FORMS = [
  { value: "-", label: "as written" },
  { value: "en", label: "in any form (English)" },
  { value: "de", label: "in any form (German)" },
  { value: "fr", label: "in any form (French)" },
  { value: "es", label: "in any form (Spanish)" },
  { value: "it", label: "in any form (Italian)" },
  { value: "nl", label: "in any form (Dutch)" },
  { value: "pt", label: "in any form (Portuguese)" },
  { value: "sv", label: "in any form (Swedish)" },
] as const;

export function TermsSentence({ rule, saved, lists, onChange }: TermsSentenceProps) {
  const added = new Set(rule.terms.filter((term) => saved && !saved.terms.includes(term)));
  const form = FORMS.some(({ value }) => value === rule.stem) ? rule.stem : "-";
  return (
    <>
      <FieldWord
        options={TEXTS}
        field={rule.field}
        name={rule.name}
        onChange={(field) => onChange({ ...rule, ...field })}
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
        atLeastOne={rule.lists.length === 0}
        values={rule.terms}
        added={added}
        onChange={(terms) => onChange({ ...rule, terms })}
      />{" "}
      <ListChips
        lists={lists}
        chosen={rule.lists}
        mayBeEmpty={rule.terms.length > 0}
        onChange={(keys) => onChange({ ...rule, lists: keys })}
      />{" "}
      <WordSelect
        label="Forms of a word"
        value={form}
        options={FORMS}
        onChange={(next) => onChange({ ...rule, stem: next === "-" ? "" : next })}
      />
    </>
  );
}
