import type { CampaignDocument } from "@/api/campaigns";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordSelect } from "@/ui/WordSelect";

type Release = CampaignDocument["release"];

const ORDERS = [
  { value: "oldest", label: "the oldest" },
  { value: "newest", label: "the newest" },
  { value: "random", label: "random ones" },
] as const;
const PERS = [
  { value: "hour", label: "an hour" },
  { value: "day", label: "a day" },
] as const;
const FULL = [
  { value: "wait", label: "wait for a later run" },
  { value: "schedule", label: "are scheduled for the next free time" },
] as const;

interface PaceSentenceProps {
  release: Release;
  onChange: (next: Partial<Release>) => void;
}

/** The pace of publication, and the order of items. */
export function PaceSentence({ release, onChange }: PaceSentenceProps) {
  const { pace } = release;
  return (
    <>
      <span className="font-medium">Pace</span>:{" "}
      <OptionalNumber
        label="Posts"
        value={pace?.posts ?? null}
        none="no limit"
        usual={3}
        max={1000}
        unit="posts"
        onChange={(posts) =>
          onChange({ pace: posts === null ? null : { per: "hour", when_full: "wait", ...pace, posts } })
        }
      />
      {pace && (
        <>
          {" "}
          <WordSelect
            label="In which time"
            value={pace.per}
            options={PERS}
            onChange={(per) => onChange({ pace: { ...pace, per } })}
          />
          ; any more{" "}
          <WordSelect
            label="Beyond the pace"
            value={pace.when_full}
            options={FULL}
            onChange={(when_full) => onChange({ pace: { ...pace, when_full } })}
          />
        </>
      )}
      . One run makes at most{" "}
      <OptionalNumber
        label="Posts a run"
        value={release.at_most ?? null}
        none="any number of posts"
        usual={10}
        max={10_000}
        unit="posts"
        onChange={(at_most) => onChange({ at_most })}
      />
      , taking{" "}
      <WordSelect
        label="Order"
        value={release.order}
        options={ORDERS}
        onChange={(order) => onChange({ order })}
      />{" "}
      first
    </>
  );
}
