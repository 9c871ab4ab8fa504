import { WordNumber } from "@/ui/WordNumber";
import { WordToggle } from "@/ui/WordToggle";
import type { SentenceProps } from "./types";

const LARGEST = 10_000;

export function PicturesSentence({ step, onChange }: SentenceProps<"pictures">) {
  const size = (label: string, key: "smallest_width" | "smallest_height" | "box_width" | "box_height") => (
    <WordNumber
      label={label}
      min={0}
      max={LARGEST}
      value={step[key]}
      onChange={(value) => onChange({ ...step, [key]: value })}
    />
  );
  return (
    <>
      <span className="font-medium">Pictures</span> in the body:{" "}
      <WordToggle
        label="remove all"
        on={step.remove_all}
        onChange={(remove_all) => onChange({ ...step, remove_all })}
      />
      {!step.remove_all && (
        <>
          remove those under {size("Smallest width", "smallest_width")} ×{" "}
          {size("Smallest height", "smallest_height")}, fit the others into{" "}
          {size("Width of the box", "box_width")} × {size("Height of the box", "box_height")} pixels (0: no
          limit){" "}
          <WordToggle
            label="describe by the title"
            on={step.describe}
            onChange={(describe) => onChange({ ...step, describe })}
          />
        </>
      )}
    </>
  );
}
