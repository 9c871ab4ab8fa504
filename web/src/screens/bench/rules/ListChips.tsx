import { BookText, X } from "lucide-react";
import type { WordListRow } from "@/api/blogs";
import { Menu } from "@/ui/Menu";

interface ListChipsProps {
  lists: readonly WordListRow[];
  chosen: readonly string[];
  mayBeEmpty: boolean;
  onChange: (keys: string[]) => void;
}

/** The word lists that a rule uses. */
export function ListChips({ lists, chosen, mayBeEmpty, onChange }: ListChipsProps) {
  const free = lists.filter((list) => !chosen.includes(list.key));
  return (
    <>
      {chosen.map((key) => {
        const list = lists.find((one) => one.key === key);
        return (
          <span
            key={key}
            className="mr-1 inline-flex h-6 items-center gap-1 rounded bg-verd-wash px-1.5 font-medium text-verd-deep"
          >
            <BookText size={12} aria-hidden="true" />
            <span title={list?.words.join(", ")}>
              {list?.name ?? key} ({list?.words.length ?? 0})
            </span>
            {(mayBeEmpty || chosen.length > 1) && (
              <button
                type="button"
                aria-label={`Remove the list ${list?.name ?? key}`}
                className="-mr-1.5 inline-flex size-6 items-center justify-center hover:text-madder"
                onClick={() => onChange(chosen.filter((other) => other !== key))}
              >
                <X size={11} />
              </button>
            )}
          </span>
        );
      })}
      {free.length > 0 && (
        <Menu
          trigger={
            <button type="button" className="mr-1 word-slot">
              <BookText size={11} /> list
            </button>
          }
          entries={free.map((list) => ({
            label: list.name,
            hint: `${list.words.length} terms`,
            onSelect: () => onChange([...chosen, list.key]),
          }))}
        />
      )}
    </>
  );
}
