import { useState } from "react";
import { WordNumber } from "./WordNumber";
import { WordSelect } from "./WordSelect";

type Unit = "hours" | "days";

const UNITS = [
  { value: "hours", label: "hours" },
  { value: "days", label: "days" },
] as const;
const DAY = 24;

interface WordHoursProps {
  label: string;
  /** In hours, as `most` is. */
  value: number;
  most: number;
  onChange: (hours: number) => void;
}

/** A span of time in a sentence, in hours or days. */
export function WordHours({ label, value, most, onChange }: WordHoursProps) {
  const whole = value % DAY === 0;
  const [wanted, setWanted] = useState<Unit>(whole && value >= 2 * DAY ? "days" : "hours");
  const unit = whole ? wanted : "hours";
  const size = unit === "days" ? DAY : 1;
  return (
    <>
      <WordNumber
        label={label}
        value={value / size}
        max={Math.floor(most / size)}
        onChange={(next) => onChange(next * size)}
      />{" "}
      <WordSelect
        label="Unit"
        value={unit}
        options={UNITS}
        onChange={(next) => {
          setWanted(next);
          if (next === "days" && !whole) onChange(Math.max(1, Math.round(value / DAY)) * DAY);
        }}
      />
    </>
  );
}
