import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

interface MenuEntry {
  label: string;
  hint?: string;
  onSelect: () => void;
  danger?: boolean;
}

export function Menu({ trigger, entries }: { trigger: ReactNode; entries: readonly MenuEntry[] }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={5}
          className="z-50 min-w-44 rounded-lg border border-line bg-sheet p-1 text-ink shadow-lg"
        >
          {entries.map((entry) => (
            <DropdownMenu.Item
              key={entry.label}
              onSelect={entry.onSelect}
              className={`rounded-[5px] px-2.5 py-1.5 outline-none data-[highlighted]:bg-sunk ${entry.danger ? "text-madder" : ""}`}
            >
              <span className="font-medium">{entry.label}</span>
              {entry.hint && <span className="block text-xs text-ink3">{entry.hint}</span>}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
