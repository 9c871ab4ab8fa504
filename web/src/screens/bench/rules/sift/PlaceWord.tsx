import type { Place } from "@/lib/sift-kinds";
import { WordHours } from "@/ui/WordHours";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";

interface PlaceWordProps {
  place: Place;
  value: unknown;
  /** The whole rule, which a place may depend on. */
  of: Record<string, unknown>;
  onChange: (value: unknown) => void;
}

/** The control for one place of a rule's sentence. */
export function PlaceWord({ place, value, of, onChange }: PlaceWordProps) {
  switch (place.type) {
    case "choice": {
      const options = Object.entries(place.options).map(([name, label]) => ({ value: name, label }));
      const tone = value === true ? "verd" : value === false ? "madder" : "plain";
      return (
        <WordSelect
          label={place.label}
          value={String(value)}
          options={options}
          tone={tone}
          onChange={(next) => onChange(typeof value === "boolean" ? next === "true" : next)}
        />
      );
    }
    case "number":
      return (
        <WordNumber
          label={place.label}
          min={place.least}
          max={place.most}
          whole={place.whole}
          value={Number(value)}
          onChange={onChange}
        />
      );
    case "hours":
      return <WordHours label={place.label} most={place.most} value={Number(value)} onChange={onChange} />;
    case "text": {
      const [field, wanted] = place.only_for ?? [];
      if (field !== undefined && of[field] !== wanted) return null;
      return (
        <WordText
          label={place.label}
          value={String(value)}
          known={[]}
          placeholder={place.placeholder}
          onChange={onChange}
        />
      );
    }
  }
}
