import clsx from "clsx";
import { RadioGroup } from "radix-ui";
import { ErrorNote } from "@/components/ErrorNote";
import { plural } from "@/lib/format";
import { STARTS } from "@/lib/starts";
import { StartEffect } from "./StartEffect";
import type { TriedStarts } from "./useTriedStarts";

interface StartChoiceProps {
  value: string;
  /** What each would make of items that are there. */
  tried: TriedStarts;
  onChange: (start: string) => void;
}

/** The starting points of a campaign, by what they are for, each with what it would do. */
export function StartChoice({ value, tried, onChange }: StartChoiceProps) {
  const chosen = STARTS.find(({ key }) => key === value);
  const effect = tried.by.get(value);
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Begin with</legend>
      <RadioGroup.Root
        value={value}
        onValueChange={onChange}
        aria-label="Begin with"
        className="grid grid-cols-3 gap-2"
      >
        {STARTS.map((start) => {
          const one = tried.by.get(start.key);
          return (
            <RadioGroup.Item
              key={start.key}
              value={start.key}
              className="flex flex-col rounded-lg border border-line bg-sheet p-3 text-left hover:bg-chalk data-[state=checked]:border-verd data-[state=checked]:bg-verd-wash"
            >
              <span className="font-semibold">{start.title}</span>
              <span className="mt-0.5 text-xs text-ink2">{start.text}</span>
              {one && one.items > 0 && (
                <span
                  className={clsx(
                    "mt-auto pt-1.5 text-xs font-semibold",
                    one.posts ? "text-verd" : "text-ink3",
                  )}
                >
                  {one.posts} of {plural(one.items, "item")}
                </span>
              )}
            </RadioGroup.Item>
          );
        })}
      </RadioGroup.Root>
      {tried.pending && (
        <p role="status" className="mt-2 animate-pulse text-ink3">
          The newest items are being tried…
        </p>
      )}
      {tried.error && <ErrorNote error={tried.error} onRetry={tried.retry} />}
      {effect && chosen && <StartEffect title={chosen.title} tried={effect} />}
    </fieldset>
  );
}
