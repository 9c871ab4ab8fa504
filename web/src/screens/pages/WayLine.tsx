import type { Way } from "@/api/pages";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";

const TAKES = [
  { value: "text", label: "its text" },
  { value: "html", label: "its HTML" },
  { value: "attribute", label: "an attribute" },
] as const;

interface WayLineProps {
  name: string;
  way: Way;
  isDate: boolean;
  onChange: (change: Partial<Way>) => void;
}

/** The part of matched elements that is taken, as a sentence. */
export function WayLine({ name, way, isDate, onChange }: WayLineProps) {
  return (
    <p className="mt-1.5 text-xs text-ink2">
      Takes{" "}
      <WordSelect
        label={`What is taken for ${name}`}
        value={way.take}
        options={TAKES}
        onChange={(take) =>
          onChange({ take, attribute: take === "attribute" ? way.attribute || "content" : "" })
        }
      />
      {way.take === "attribute" && (
        <>
          {" "}
          <WordText
            label={`Attribute for ${name}`}
            value={way.attribute}
            known={[]}
            placeholder="attribute"
            longest={60}
            onChange={(attribute) => onChange({ attribute })}
          />
        </>
      )}
      , and of it{" "}
      <WordText
        label={`Pattern for ${name}`}
        value={way.pattern}
        known={[]}
        placeholder="everything"
        longest={500}
        onChange={(pattern) => onChange({ pattern })}
      />
      {isDate && (
        <>
          , a date written{" "}
          <WordText
            label={`Format of ${name}`}
            value={way.format}
            known={["%d.%m.%Y", "%d/%m/%Y", "%m/%d/%Y", "%d.%m.%y"]}
            placeholder="as found"
            longest={60}
            onChange={(format) => onChange({ format })}
          />
        </>
      )}
      .
    </p>
  );
}
