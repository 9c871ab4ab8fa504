import type { CampaignDocument } from "@/api/campaigns";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordSelect } from "@/ui/WordSelect";

type Copies = CampaignDocument["shape"]["copies"];

const WHERE = [
  { value: "there", label: "from where the source keeps them" },
  { value: "here", label: "from copies of the blog's own" },
] as const;

/** Whether the blog copies media. */
export function CopiesSentence({ copies, onChange }: { copies: Copies; onChange: (copies: Copies) => void }) {
  return (
    <>
      <span className="font-medium">Pictures</span> are shown{" "}
      <WordSelect
        label="Pictures are shown"
        value={copies.pictures ? "here" : "there"}
        options={WHERE}
        onChange={(where) => onChange({ ...copies, pictures: where === "here" })}
      />
      , <span className="font-medium">films and sound</span>{" "}
      <WordSelect
        label="Films and sound are played"
        value={copies.recordings ? "here" : "there"}
        options={WHERE}
        onChange={(where) => onChange({ ...copies, recordings: where === "here" })}
      />
      {copies.recordings && (
        <>
          {" "}
          up to{" "}
          <OptionalNumber
            label="Largest copy"
            value={copies.most_mb}
            none="2000 MB"
            usual={100}
            max={2000}
            unit="MB"
            onChange={(most_mb) => onChange({ ...copies, most_mb: most_mb ?? 2000 })}
          />
        </>
      )}
      {(copies.pictures || copies.recordings) && (
        <span className="text-ink3"> (only what a source allows in full is copied)</span>
      )}
    </>
  );
}
