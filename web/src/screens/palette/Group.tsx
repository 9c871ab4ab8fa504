import { Command } from "cmdk";
import type { Place } from "./places";

interface GroupProps {
  title: string;
  rows: readonly Place[];
  onChosen: (to: string) => void;
}

/** Findings of one kind; nothing where there are none. */
export function Group({ title, rows, onChosen }: GroupProps) {
  if (!rows.length) return null;
  return (
    <Command.Group
      heading={title}
      className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-ink3"
    >
      {rows.map((row) => (
        <Command.Item
          key={row.to}
          value={row.to}
          onSelect={() => onChosen(row.to)}
          className="truncate rounded-md px-2 py-1.5 data-[selected=true]:bg-verd-wash data-[selected=true]:text-verd"
        >
          {row.name}
        </Command.Item>
      ))}
    </Command.Group>
  );
}
