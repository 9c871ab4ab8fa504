import clsx from "clsx";
import { Select } from "radix-ui";

interface WordSelectProps<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; label: string }[];
  onChange: (value: T) => void;
  tone?: "plain" | "verd" | "madder";
}

const TONES = {
  plain: "bg-sunk text-ink",
  verd: "bg-verd-wash text-verd-deep",
  madder: "bg-madder-wash text-madder",
};

/** A word of a sentence with alternatives. */
export function WordSelect<T extends string>({
  label,
  value,
  options,
  onChange,
  tone = "plain",
}: WordSelectProps<T>) {
  return (
    <Select.Root value={value} onValueChange={(next) => onChange(next as T)}>
      <Select.Trigger
        aria-label={label}
        className={clsx(
          "h-6 rounded px-1.5 font-medium hover:brightness-95 dark:hover:brightness-125",
          TONES[tone],
        )}
      >
        <Select.Value />
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={4}
          className="z-50 min-w-32 rounded-lg border border-line bg-sheet p-1 shadow-lg"
        >
          <Select.Viewport>
            {options.map((option) => (
              <Select.Item
                key={option.value}
                value={option.value}
                className="rounded-[5px] px-2.5 py-1 outline-none data-[highlighted]:bg-sunk data-[state=checked]:font-semibold"
              >
                <Select.ItemText>{option.label}</Select.ItemText>
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
