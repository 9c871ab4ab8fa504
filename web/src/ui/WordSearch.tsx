import { Command } from "cmdk";
import { Popover } from "radix-ui";
import { useEffect, useState } from "react";
import { count } from "@/lib/format";
import { useSettled } from "@/lib/useSettled";

/** How many are shown before a search. */
export const FIRST_FOUND = 20;

export interface Found {
  rows: readonly { value: string; label: string }[];
  /** How many there are, those that are not shown too. */
  total: number;
}

interface WordSearchProps {
  label: string;
  /** Empty for any. */
  value: string;
  /** The chosen value in words. */
  shown: string;
  /** What an empty value means, such as “every source”. */
  any: string;
  /** What was found by the words that were searched for. */
  found: Found | undefined;
  /** Asks for what has these words; null where nothing is asked any more. */
  onSearch: (words: string | null) => void;
  onChange: (value: string) => void;
}

const ANY = "-any-";
const ITEM =
  "cursor-default truncate rounded-[5px] px-2.5 py-1 data-[selected=true]:bg-sunk aria-[current=true]:font-semibold";

/** A word of a sentence with more alternatives than a list shows: they are searched. */
export function WordSearch({ label, value, shown, any, found, onSearch, onChange }: WordSearchProps) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        if (!next) onSearch(null);
      }}
    >
      <Popover.Trigger asChild>
        <button
          type="button"
          aria-label={`${label}: ${value ? shown : any}`}
          dir="auto"
          className="inline-block h-6 max-w-52 truncate rounded bg-sunk px-1.5 align-baseline font-medium text-ink leading-6 hover:brightness-95 dark:hover:brightness-125"
        >
          {value ? shown : any}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={12}
          aria-label={label}
          className="z-50 w-72 overflow-hidden rounded-lg border border-line bg-sheet text-ink shadow-lg"
        >
          <Choices
            label={label}
            value={value}
            any={any}
            found={found}
            onSearch={onSearch}
            onChoose={(next) => {
              setOpen(false);
              onSearch(null);
              onChange(next);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

interface ChoicesProps extends Pick<WordSearchProps, "label" | "value" | "any" | "found" | "onSearch"> {
  onChoose: (value: string) => void;
}

function Choices({ label, value, any, found, onSearch, onChoose }: ChoicesProps) {
  const [typed, setTyped] = useState("");
  const search = useSettled(typed.trim());
  useEffect(() => onSearch(search), [search, onSearch]);
  const rows = found?.rows ?? [];
  const left = (found?.total ?? 0) - rows.length;
  return (
    <Command label={label} shouldFilter={false} loop>
      <Command.Input
        value={typed}
        onValueChange={setTyped}
        placeholder={`Find a ${label.toLowerCase()}`}
        className="w-full border-line border-b bg-sheet px-3 py-2 outline-none"
      />
      <Command.List className="max-h-72 overflow-auto p-1">
        <Command.Empty className="px-2.5 py-1 text-ink3">
          {found ? "Nothing is named so." : "Searching…"}
        </Command.Empty>
        {!typed && (
          <Command.Item
            value={ANY}
            aria-current={value === ""}
            className={ITEM}
            onSelect={() => onChoose("")}
          >
            {any}
          </Command.Item>
        )}
        {rows.map((row) => (
          <Command.Item
            key={row.value}
            value={row.value}
            aria-current={row.value === value}
            dir="auto"
            title={row.label}
            className={ITEM}
            onSelect={() => onChoose(row.value)}
          >
            {row.label}
          </Command.Item>
        ))}
      </Command.List>
      {left > 0 && (
        <p className="border-line border-t px-3 py-1.5 text-ink3 text-xs">{count(left)} more: type a name.</p>
      )}
    </Command>
  );
}
