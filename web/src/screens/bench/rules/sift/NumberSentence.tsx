import type { SiftRule } from "@/api/campaigns";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { FieldWord } from "./FieldWord";
import { AMOUNTS, UNKNOWNS } from "./fields";

type NumberRule = Extract<SiftRule, { kind: "number" }>;
type Bounds = "least" | "most" | "between";

const BOUNDS = [
  { value: "least", label: "is at least" },
  { value: "most", label: "is at most" },
  { value: "between", label: "is between" },
] as const;
const ALWAYS_KNOWN = ["words", "title_words", "pictures"];
const HIGHEST = 1_000_000_000;

function boundsOf(rule: NumberRule): Bounds {
  if (rule.at_most === null || rule.at_most === undefined) return "least";
  return rule.at_least === null || rule.at_least === undefined ? "most" : "between";
}

export function NumberSentence({
  rule,
  onChange,
}: {
  rule: NumberRule;
  onChange: (rule: NumberRule) => void;
}) {
  const bounds = boundsOf(rule);
  const least = rule.at_least ?? 50;
  const most = rule.at_most ?? Math.max(1000, least);
  const whole = ALWAYS_KNOWN.includes(rule.field);

  function setBounds(next: Bounds) {
    onChange({ ...rule, at_least: next === "most" ? null : least, at_most: next === "least" ? null : most });
  }

  return (
    <>
      <FieldWord
        options={AMOUNTS}
        field={rule.field}
        name={rule.name}
        onChange={(field) => onChange({ ...rule, ...field })}
      />{" "}
      <WordSelect label="Bounds" value={bounds} options={BOUNDS} onChange={setBounds} />{" "}
      {bounds !== "most" && (
        <WordNumber
          label="At least"
          min={0}
          whole={whole}
          value={least}
          max={bounds === "between" ? most : HIGHEST}
          onChange={(value) => onChange({ ...rule, at_least: value })}
        />
      )}
      {bounds === "between" && " and "}
      {bounds !== "least" && (
        <WordNumber
          label="At most"
          min={bounds === "between" ? least : 0}
          max={HIGHEST}
          whole={whole}
          value={most}
          onChange={(value) => onChange({ ...rule, at_most: value })}
        />
      )}
      {!whole && (
        <>
          {" "}
          where not stated it{" "}
          <WordSelect
            label="Where it is not stated"
            value={rule.unknown}
            options={UNKNOWNS}
            onChange={(unknown) => onChange({ ...rule, unknown })}
          />
        </>
      )}
    </>
  );
}
