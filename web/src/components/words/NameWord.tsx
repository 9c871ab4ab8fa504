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
  onChange: (value: string) => void;
}

/** A category, tag or byline in a sentence, searched for. */
export function NameWord({ blog, kind, label, any, value, onChange }: NameWordProps) {
  const [search, setSearch] = useState<string | null>(null);
  const asked = namesQuery(blog, kind, search ?? "", 0, FIRST_FOUND);
  const found = useQuery({ ...asked, enabled: search !== null }).data;
  return (
    <WordSearch
      label={label}
      value={value}
      shown={value}
      any={any}
      found={
        found && { rows: found.rows.map(({ name }) => ({ value: name, label: name })), total: found.total }
      }
      onSearch={setSearch}
      onChange={onChange}
    />
  );
}
