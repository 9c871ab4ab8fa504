import { useState } from "react";
import type { SiftRule } from "@/api/campaigns";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";

type AgeRule = Extract<SiftRule, { kind: "age" }>;
type Unit = "hours" | "days";

const UNITS = [
  { value: "hours", label: "hours" },
  { value: "days", label: "days" },
] as const;
const DAY = 24;

export function AgeSentence({ rule, onChange }: { rule: AgeRule; onChange: (rule: AgeRule) => void }) {
  const whole = rule.within_hours % DAY === 0;
  const [wanted, setWanted] = useState<Unit>(whole && rule.within_hours >= 2 * DAY ? "days" : "hours");
  const unit = whole ? wanted : "hours";
  const size = unit === "days" ? DAY : 1;
  return (
    <>
      <span className="font-medium">Published</span> within{" "}
      <WordNumber
        label="How long"
        value={rule.within_hours / size}
        max={3650 * (unit === "days" ? 1 : DAY)}
        onChange={(value) => onChange({ ...rule, within_hours: value * size })}
      />{" "}
      <WordSelect
        label="Unit"
        value={unit}
        options={UNITS}
        onChange={(next) => {
          setWanted(next);
          if (next === "days" && !whole) {
            onChange({ ...rule, within_hours: Math.max(1, Math.round(rule.within_hours / DAY)) * DAY });
          }
        }}
      />{" "}
      before the run
    </>
  );
}
