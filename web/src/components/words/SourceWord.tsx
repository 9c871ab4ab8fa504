import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { chosenSourcesQuery, sourcesQuery } from "@/api/sources";
import { FIRST_FOUND, WordSearch } from "@/ui/WordSearch";

interface SourceWordProps {
  blog: string;
  /** Empty for any. */
  value: string;
  onChange: (value: string) => void;
}

/** A source in a sentence, searched for by its title. */
export function SourceWord({ blog, value, onChange }: SourceWordProps) {
  const [search, setSearch] = useState<string | null>(null);
  const chosen = useQuery({ ...chosenSourcesQuery(blog, [value], []), enabled: value !== "" }).data;
  const asked = sourcesQuery(blog, search ?? "", "title", 0, FIRST_FOUND);
  const found = useQuery({ ...asked, enabled: search !== null }).data;
  return (
    <WordSearch
      label="Source"
      value={value}
      shown={chosen?.rows.find(({ key }) => key === value)?.title ?? value}
      any="every source"
      found={
        found && {
          rows: found.rows.map(({ key, title }) => ({ value: key, label: title })),
          total: found.total,
        }
      }
      onSearch={setSearch}
      onChange={onChange}
    />
  );
}
