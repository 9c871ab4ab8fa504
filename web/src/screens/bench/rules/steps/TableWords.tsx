import { Link } from "react-router";
import type { TermTableRow } from "@/api/blogs";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";
import { WordToggle } from "@/ui/WordToggle";

interface TableWordsProps {
  blog: string;
  tables: readonly TermTableRow[];
  chosen: readonly string[];
  onChange: (tables: string[]) => void;
}

/** The blog's tables as words to switch on and off. One stays on. */
export function TableWords({ blog, tables, chosen, onChange }: TableWordsProps) {
  const known = chosen.filter((key) => tables.some((table) => table.key === key));
  function toggle(key: string, on: boolean) {
    const next = on ? [...known, key] : known.filter((other) => other !== key);
    if (next.length) onChange(next);
  }
  if (!tables.length)
    return (
      <Link className="font-semibold text-verd" to={desk.lists(blog)}>
        Make a table of terms first
      </Link>
    );
  return tables.map((table) => (
    <WordToggle
      key={table.key}
      label={`${table.name} (${plural(table.lines, "line")})`}
      on={known.includes(table.key)}
      onChange={(on) => toggle(table.key, on)}
    />
  ));
}
