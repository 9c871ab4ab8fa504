import type { CampaignDocument } from "@/api/campaigns";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { WordTime } from "@/ui/WordTime";

type Place = CampaignDocument["place"];

interface DateSentenceProps {
  place: Place;
  /** Whether future dates are allowed, as when posts are published by date. */
  scheduled: boolean;
  onChange: (next: Partial<Place>) => void;
}

const DATES = [
  { value: "original", label: "its own date" },
  { value: "import", label: "the time of the run" },
  { value: "a_day", label: "so many a day" },
  { value: "between", label: "spread evenly" },
  { value: "random", label: "drawn at random" },
] as const;

export function DateSentence({ place, scheduled, onChange }: DateSentenceProps) {
  const { dates } = place;
  const set = (next: Partial<Place["dates"]>) => onChange({ dates: { ...dates, ...next } });
  const ends = dates.first && dates.last;
  return (
    <>
      <span className="font-medium">Dated</span>{" "}
      <WordSelect
        label="Date"
        value={place.date}
        options={DATES}
        onChange={(date) => {
          const now = Date.now();
          const spread = date === "between" && !ends;
          onChange({
            date,
            ...(spread && {
              dates: {
                ...dates,
                first: new Date(now - 30 * 86_400_000).toISOString(),
                last: new Date(now).toISOString(),
              },
            }),
          });
        }}
      />
      {place.date === "a_day" && (
        <>
          :{" "}
          <WordNumber
            label="Posts a day"
            value={dates.a_day}
            max={1440}
            onChange={(a_day) => set({ a_day })}
          />{" "}
          a day, beginning{" "}
          <WordTime
            label="First moment"
            value={dates.first ?? null}
            none="now"
            onChange={(first) => set({ first })}
          />
        </>
      )}
      {place.date === "random" && !ends && (
        <>
          {" "}
          within the last{" "}
          <WordNumber label="Hours" value={dates.hours} max={87_600} onChange={(hours) => set({ hours })} />{" "}
          hours
        </>
      )}
      {(place.date === "between" || (place.date === "random" && ends)) && (
        <>
          {" "}
          between{" "}
          <WordTime
            label="First moment"
            value={dates.first ?? null}
            none="a moment"
            onChange={(first) => set({ first })}
          />{" "}
          and{" "}
          <WordTime
            label="Last moment"
            value={dates.last ?? null}
            none="a moment"
            onChange={(last) => set({ last })}
          />
        </>
      )}
      <span className="block text-xs text-ink3">
        {scheduled
          ? "A future date is kept: the post waits for it."
          : "A future date becomes the time of the run, unless Release publishes by date."}
      </span>
    </>
  );
}
