import clsx from "clsx";
import { ToggleGroup } from "radix-ui";
import type { ReactNode } from "react";

interface Option<T extends string> {
  value: T;
  label: ReactNode;
  tone?: string;
}

interface SegmentedProps<T extends string> {
  label: string;
  value: T;
  options: readonly Option<T>[];
  onChange: (value: T) => void;
}

export function Segmented<T extends string>({ label, value, options, onChange }: SegmentedProps<T>) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(next) => next && onChange(next as T)}
      className="flex shrink-0 rounded-[7px] border border-line text-xs"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          className={clsx(
            "border-r border-line px-2.5 py-1 whitespace-nowrap first:rounded-l-md last:rounded-r-md last:border-r-0",
            "hover:bg-sunk data-[state=on]:bg-ink data-[state=on]:text-sheet",
            option.tone ?? "text-ink2",
          )}
        >
          {option.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
