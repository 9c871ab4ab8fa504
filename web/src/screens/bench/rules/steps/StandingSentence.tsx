import { Plus, Trash2 } from "lucide-react";
import { WordSelect } from "@/ui/WordSelect";
import type { SentenceProps } from "./types";

const SIDES = [
  { value: "after", label: "after" },
  { value: "before", label: "before" },
] as const;

export function StandingSentence({
  step,
  fault,
  onChange,
}: SentenceProps<"standing"> & { fault?: string | undefined }) {
  const set = (place: number, text: string) =>
    onChange({ ...step, variants: step.variants.map((other, index) => (index === place ? text : other)) });
  return (
    <>
      <span className="font-medium">Standing text</span>{" "}
      <WordSelect
        label="Side"
        value={step.side}
        options={SIDES}
        onChange={(side) => onChange({ ...step, side })}
      />{" "}
      the {step.of === "body" ? "body" : "text"}
      {step.variants.length > 1 && ", one of these for each item"}:
      {step.variants.map((variant, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a variant is known by its place
        <span key={place} className="mt-1 flex items-start gap-1">
          <textarea
            aria-label={`Variant ${place + 1}`}
            rows={2}
            value={variant}
            onChange={(event) => set(place, event.target.value)}
            className="w-full rounded-md border border-line bg-chalk px-2 py-1 font-mono text-[11.5px] leading-normal"
          />
          {step.variants.length > 1 && (
            <button
              type="button"
              aria-label={`Remove variant ${place + 1}`}
              className="inline-flex size-6 items-center justify-center text-ink3 hover:text-madder"
              onClick={() =>
                onChange({ ...step, variants: step.variants.filter((_, index) => index !== place) })
              }
            >
              <Trash2 size={12} />
            </button>
          )}
        </span>
      ))}
      {fault && (
        <span role="alert" className="block text-xs font-medium text-madder">
          {fault}
        </span>
      )}
      <button
        type="button"
        className="inline-flex h-6 items-center gap-1 text-xs text-ink3 hover:text-verd"
        onClick={() => onChange({ ...step, variants: [...step.variants, "Another way to say it."] })}
      >
        <Plus size={11} /> another variant
      </button>
    </>
  );
}
