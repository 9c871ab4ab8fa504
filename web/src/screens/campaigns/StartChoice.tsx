import { RadioGroup } from "radix-ui";
import { STARTS } from "@/lib/starts";

/** The starting points of a campaign, by what they are for. */
export function StartChoice({ value, onChange }: { value: string; onChange: (start: string) => void }) {
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Begin with</legend>
      <RadioGroup.Root
        value={value}
        onValueChange={onChange}
        aria-label="Begin with"
        className="grid grid-cols-3 gap-2"
      >
        {STARTS.map((start) => (
          <RadioGroup.Item
            key={start.key}
            value={start.key}
            className="rounded-lg border border-line bg-sheet p-3 text-left hover:bg-chalk data-[state=checked]:border-verd data-[state=checked]:bg-verd-wash"
          >
            <span className="font-semibold">{start.title}</span>
            <span className="mt-0.5 block text-xs text-ink2">{start.text}</span>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
    </fieldset>
  );
}
