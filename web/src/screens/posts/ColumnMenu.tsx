import { Columns3 } from "lucide-react";
import { Popover } from "radix-ui";
import { buttonLook } from "@/ui/Button";
import { COLUMNS } from "./columns";

interface ColumnMenuProps {
  chosen: ReadonlySet<string>;
  onChange: (chosen: ReadonlySet<string>) => void;
}

/** Chooses the columns of the list. */
export function ColumnMenu({ chosen, onChange }: ColumnMenuProps) {
  return (
    <Popover.Root>
      <Popover.Trigger className={buttonLook("quiet", true)}>
        <Columns3 size={13} aria-hidden="true" /> Columns
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={5}
          className="z-50 rounded-lg border border-line bg-sheet p-3 shadow-lg"
        >
          <fieldset className="space-y-1">
            <legend className="sr-only">Columns</legend>
            {COLUMNS.filter(({ key }) => key !== "title").map(({ key, head }) => (
              <label key={key} className="flex min-h-6 items-center gap-2">
                <input
                  type="checkbox"
                  className="accent-verd"
                  checked={chosen.has(key)}
                  onChange={({ target }) =>
                    onChange(
                      new Set(target.checked ? [...chosen, key] : [...chosen].filter((one) => one !== key)),
                    )
                  }
                />
                {head}
              </label>
            ))}
          </fieldset>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
