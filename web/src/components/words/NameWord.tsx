import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type NameKind, namesQuery } from "@/api/names";
import { FIRST_FOUND, WordSearch } from "@/ui/WordSearch";

interface NameWordProps {
  blog: string;
  /** Empty for any. */
  value: string;
  kind: NameKind;
  label: string;
  any: string;
  /** What the value is: the name, or the last part of the address. */
  by?: "name" | "slug";
  onChange: (value: string) => void;
}

/** A category, tag or byline in a sentence, searched for. */
export function NameWord({ blog, kind, label, any, by = "name", value, onChange }: NameWordProps) {
  const [search, setSearch] = useState<string | null>(null);
  const [names, setNames] = useState<Record<string, string>>({});
  const asked = namesQuery(blog, kind, search ?? "", 0, FIRST_FOUND);
  const found = useQuery({ ...asked, enabled: search !== null }).data;
  return (
    <WordSearch
      label={label}
      value={value}
      shown={names[value] ?? value}
      any={any}
      found={
        found && { rows: found.rows.map((row) => ({ value: row[by], label: row.name })), total: found.total }
      }
      onSearch={setSearch}
      onChange={(next) => {
        const chosen = found?.rows.find((row) => row[by] === next);
        if (chosen) setNames((before) => ({ ...before, [next]: chosen.name }));
        onChange(next);
      }}
    />
  );
}
