import { RadioGroup } from "radix-ui";
import type { CampaignDocument } from "@/api/campaigns";
import { Lozenge } from "@/ui/Lozenge";

type Mode = CampaignDocument["release"]["mode"];

const MODES: readonly { value: Mode; title: string; text: string }[] = [
  { value: "hold", title: "Hold for review", text: "A person looks at each post before it goes out." },
  {
    value: "publish",
    title: "Publish by itself",
    text: "For sources that you trust: nobody looks at the posts first.",
  },
  { value: "scheduled", title: "Publish by date", text: "A post with a future date waits until then." },
  { value: "private", title: "Publish privately", text: "Only the people of this blog see it." },
  { value: "draft", title: "Keep as drafts", text: "Nothing is published; you finish the posts by hand." },
];

interface ModeChoiceProps {
  value: Mode;
  onChange: (mode: Mode) => void;
  stacked?: boolean;
}

/** The state of posts without a rule against them. */
export function ModeChoice({ value, onChange, stacked = false }: ModeChoiceProps) {
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Posts on this blog</legend>
      <RadioGroup.Root
        value={value}
        onValueChange={(next) => onChange(next as Mode)}
        aria-label="Posts on this blog"
        className={`grid gap-2 ${stacked ? "" : "grid-cols-3"}`}
      >
        {MODES.map((mode) => (
          <RadioGroup.Item
            key={mode.value}
            value={mode.value}
            className={`rounded-lg border border-line text-left ${stacked ? "px-2.5 py-1.5" : "p-3"}  hover:bg-chalk bg-sheet data-[state=checked]:border-verd data-[state=checked]:bg-verd-wash`}
          >
            <span className="flex items-center gap-1.5 font-semibold">
              <Lozenge kind={mode.value} /> {mode.title}
            </span>
            <span className="mt-0.5 block text-xs text-ink2">{mode.text}</span>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
    </fieldset>
  );
}
