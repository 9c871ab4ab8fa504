import type { CampaignDocument } from "@/api/campaigns";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { WordTime } from "@/ui/WordTime";

type Place = CampaignDocument["place"];

interface DateSentenceProps {
  place: Place;
  /** Whether future dates are allowed, as when posts are published by date. */
  scheduled: boolean;
  /** Lets Release publish by date. */
  onSchedule: () => void;
  onChange: (next: Partial<Place>) => void;
}

const DATES = [
  { value: "original", label: "its own date" },
  { value: "import", label: "the time of the run" },
  { value: "a_day", label: "so many a day" },
  { value: "between", label: "spread evenly" },
  { value: "random", label: "drawn at random" },
] as const;

/** Whether dates of posts may lie in the future. */
function mayLieAhead({ date, dates }: Place): boolean {
  if (date === "random" && !(dates.first && dates.last)) return dates.hours_ahead > 0;
  return date === "a_day" || date === "between" || date === "random";
}

export function DateSentence({ place, scheduled, onSchedule, onChange }: DateSentenceProps) {
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
          <WordNumber
            label="Hours before"
            value={dates.hours}
            min={dates.hours_ahead ? 0 : 1}
            max={87_600}
            onChange={(hours) => set({ hours })}
          />{" "}
          and the next{" "}
          <WordNumber
            label="Hours after"
            value={dates.hours_ahead}
            min={dates.hours ? 0 : 1}
            max={87_600}
            onChange={(hours_ahead) => set({ hours_ahead })}
          />{" "}
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
        {!scheduled && mayLieAhead(place) && (
          <button
            type="button"
            className="ml-1 inline-flex min-h-6 items-center font-semibold text-verd"
            onClick={onSchedule}
          >
            Let Release publish by date
          </button>
        )}
      </span>
    </>
  );
}
