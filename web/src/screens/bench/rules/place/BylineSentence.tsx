import type { CampaignDocument } from "@/api/campaigns";
import { PairRows } from "@/ui/PairRows";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";

type Place = CampaignDocument["place"];

const FROM = [
  { value: "fixed", label: "always" },
  { value: "author", label: "the author’s, where there is one, else" },
] as const;

interface BylineSentenceProps {
  place: Place;
  known: readonly string[];
  onChange: (next: Partial<Place>) => void;
}

export function BylineSentence({ place, known, onChange }: BylineSentenceProps) {
  return (
    <>
      <span className="font-medium">Byline</span>{" "}
      <WordSelect
        label="Byline from"
        value={place.byline_from}
        options={FROM}
        onChange={(byline_from) => onChange({ byline_from })}
      />{" "}
      <WordText
        label="Byline"
        value={place.byline}
        known={known}
        placeholder="none"
        onChange={(byline) => onChange({ byline })}
      />
      {place.byline_from === "author" && (
        <>
          <span className="block text-xs text-ink3">
            An author counts whose name is a byline of this blog, or stands in this table.
          </span>
          <PairRows
            label="Table of bylines"
            rows={place.byline_table.map(({ word, name }) => [word, name])}
            heads={["author", "byline"]}
            known={known}
            onChange={(rows) => onChange({ byline_table: rows.map(([word, name]) => ({ word, name })) })}
          />
        </>
      )}
    </>
  );
}
