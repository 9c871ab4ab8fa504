import type { SiftRule } from "@/api/campaigns";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import { TRAITS } from "./fields";

type PresenceRule = Extract<SiftRule, { kind: "presence" }>;

const WANTED = [
  { value: "yes", label: "has" },
  { value: "no", label: "lacks" },
] as const;

export function PresenceSentence({
  rule,
  onChange,
}: {
  rule: PresenceRule;
  onChange: (rule: PresenceRule) => void;
}) {
  return (
    <>
      <span className="font-medium">The item</span>{" "}
      <WordSelect
        label="Wanted"
        value={rule.wanted ? "yes" : "no"}
        options={WANTED}
        tone={rule.wanted ? "verd" : "madder"}
        onChange={(wanted) => onChange({ ...rule, wanted: wanted === "yes" })}
      />{" "}
      <WordSelect
        label="What"
        value={rule.trait}
        options={TRAITS}
        onChange={(trait) => onChange({ ...rule, trait })}
      />
      {rule.trait === "custom" && (
        <>
          {" "}
          <WordText
            label="Name of the field"
            value={rule.name}
            known={[]}
            placeholder="its name"
            onChange={(name) => onChange({ ...rule, name })}
          />
        </>
      )}
    </>
  );
}
