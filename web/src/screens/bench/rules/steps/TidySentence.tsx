import { WordToggle } from "@/ui/WordToggle";
import type { SentenceProps } from "./types";

const PARTS = [
  ["empty", "empty paragraphs"],
  ["pixels", "tracking pixels"],
  ["styles", "inline styles"],
  ["spaces", "double spaces"],
  ["quotes", "typographic quotes"],
] as const;

export function TidySentence({ step, onChange }: SentenceProps<"tidy">) {
  return (
    <>
      <span className="font-medium">Tidy up</span>:{" "}
      {PARTS.map(([key, label]) => (
        <WordToggle
          key={key}
          label={label}
          on={step[key]}
          onChange={(on) => onChange({ ...step, [key]: on })}
        />
      ))}
    </>
  );
}
