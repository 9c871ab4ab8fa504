import { Fragment } from "react";
import type { SiftRule } from "@/api/campaigns";
import { piecesOf, type SiftKindInfo } from "@/lib/sift-kinds";
import { PlaceWord } from "./PlaceWord";

interface DescribedSentenceProps {
  rule: SiftRule;
  info: SiftKindInfo;
  onChange: (rule: SiftRule) => void;
}

/** A rule drawn from what core says of its kind: words, and a control for each place. */
export function DescribedSentence({ rule, info, onChange }: DescribedSentenceProps) {
  const values = rule as unknown as Record<string, unknown>;
  return piecesOf(info.sentence).map(({ kind, text }) => {
    if (kind === "words") return text;
    if (kind === "strong") {
      return (
        <span key={text} className="font-medium">
          {text}
        </span>
      );
    }
    const place = info.places[text];
    if (!place) return null;
    return (
      <Fragment key={text}>
        <PlaceWord
          place={place}
          value={values[text]}
          of={values}
          onChange={(value) => onChange({ ...rule, [text]: value } as SiftRule)}
        />
      </Fragment>
    );
  });
}
