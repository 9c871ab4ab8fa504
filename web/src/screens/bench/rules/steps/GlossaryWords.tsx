import type { TermTableRow } from "@/api/blogs";
import { WordToggle } from "@/ui/WordToggle";

interface GlossaryWordsProps {
  tables: readonly TermTableRow[];
  chosen: readonly string[];
  onChange: (tables: string[]) => void;
}

/** The tables whose terms stay as they are, or have a fixed translation. None has to be on. */
export function GlossaryWords({ tables, chosen, onChange }: GlossaryWordsProps) {
  if (!tables.length) return null;
  return (
    <>
      , with the terms of{" "}
      {tables.map((table) => (
        <WordToggle
          key={table.key}
          label={table.name}
          on={chosen.includes(table.key)}
          onChange={(on) =>
            onChange(on ? [...chosen, table.key] : chosen.filter((other) => other !== table.key))
          }
        />
      ))}
    </>
  );
}
