import type { SiftRule } from "@/api/campaigns";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";

type WordsRule = Extract<SiftRule, { kind: "words" }>;
type Bounds = "least" | "most" | "between";

const BOUNDS = [
  { value: "least", label: "is at least" },
  { value: "most", label: "is at most" },
  { value: "between", label: "is between" },
] as const;

function boundsOf(rule: WordsRule): Bounds {
  if (rule.at_most === null || rule.at_most === undefined) return "least";
  return rule.at_least === null || rule.at_least === undefined ? "most" : "between";
}

export function WordsSentence({ rule, onChange }: { rule: WordsRule; onChange: (rule: WordsRule) => void }) {
  const bounds = boundsOf(rule);
  const least = rule.at_least ?? 50;
  const most = rule.at_most ?? Math.max(1000, least);

  function setBounds(next: Bounds) {
    onChange({ ...rule, at_least: next === "most" ? null : least, at_most: next === "least" ? null : most });
  }

  return (
    <>
      <span className="font-medium">Word count</span>{" "}
      <WordSelect label="Bounds" value={bounds} options={BOUNDS} onChange={setBounds} />{" "}
      {bounds !== "most" && (
        <WordNumber
          label="At least"
          min={0}
          value={least}
          max={bounds === "between" ? most : 1_000_000}
          onChange={(value) => onChange({ ...rule, at_least: value })}
        />
      )}
      {bounds === "between" && " and "}
      {bounds !== "least" && (
        <WordNumber
          label="At most"
          min={bounds === "between" ? least : 0}
          value={most}
          onChange={(value) => onChange({ ...rule, at_most: value })}
        />
      )}
    </>
  );
}
