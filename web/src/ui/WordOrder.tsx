import { ChevronLeft, ChevronRight, Plus, X } from "lucide-react";
import { moved } from "@/lib/rules";
import { Menu } from "./Menu";

interface WordOrderProps<T extends string> {
  label: string;
  values: readonly T[];
  options: readonly { value: T; label: string }[];
  none: string;
  onChange: (values: T[]) => void;
}

/** Words in an order of preference: moved by arrows, removed, and added from the rest. */
export function WordOrder<T extends string>({ label, values, options, none, onChange }: WordOrderProps<T>) {
  const name = (value: T) => options.find((option) => option.value === value)?.label ?? value;
  const left = options.filter((option) => !values.includes(option.value));
  const arrow = "inline-flex size-6 items-center justify-center text-ink3 hover:text-ink disabled:opacity-25";
  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset cannot stand inside a sentence
    <span role="group" aria-label={label} className="inline">
      {values.length === 0 && <span className="mr-1 text-ink3">{none}</span>}
      {values.map((value, place) => (
        <span key={value} className="mr-1 mb-1 inline-flex h-6 items-center rounded bg-sunk font-medium">
          <button
            type="button"
            className={arrow}
            disabled={place === 0}
            aria-label={`${name(value)}: earlier`}
            onClick={() => onChange(moved(values, place, place - 1))}
          >
            <ChevronLeft size={11} />
          </button>
          {name(value)}
          <button
            type="button"
            className={arrow}
            disabled={place === values.length - 1}
            aria-label={`${name(value)}: later`}
            onClick={() => onChange(moved(values, place, place + 1))}
          >
            <ChevronRight size={11} />
          </button>
          <button
            type="button"
            aria-label={`Remove ${name(value)}`}
            className="inline-flex size-6 items-center justify-center text-ink3 hover:text-madder"
            onClick={() => onChange(values.filter((other) => other !== value))}
          >
            <X size={11} />
          </button>
        </span>
      ))}
      {left.length > 0 && (
        <Menu
          trigger={
            <button type="button" aria-label={`${label}: add`} className="mb-1 word-slot">
              <Plus size={11} /> add
            </button>
          }
          entries={left.map((option) => ({
            label: option.label,
            onSelect: () => onChange([...values, option.value]),
          }))}
        />
      )}
    </span>
  );
}
