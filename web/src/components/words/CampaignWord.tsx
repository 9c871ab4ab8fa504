import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { campaignQuery, campaignsQuery } from "@/api/campaigns";
import { FIRST_FOUND, WordSearch } from "@/ui/WordSearch";

interface CampaignWordProps {
  blog: string;
  /** Empty for any. */
  value: string;
  /** What an empty value means. */
  any?: string;
  onChange: (value: string) => void;
}

/** A campaign in a sentence, searched for by its name. */
export function CampaignWord({ blog, value, any = "every campaign", onChange }: CampaignWordProps) {
  const [search, setSearch] = useState<string | null>(null);
  const chosen = useQuery({ ...campaignQuery(blog, value), enabled: value !== "" }).data;
  const asked = campaignsQuery(blog, { search: search ?? "", limit: FIRST_FOUND });
  const found = useQuery({ ...asked, enabled: search !== null }).data;
  return (
    <WordSearch
      label="Campaign"
      value={value}
      shown={chosen?.name ?? value}
      any={any}
      found={
        found && {
          rows: found.rows.map(({ slug, name }) => ({ value: slug, label: name })),
          total: found.total,
        }
      }
      onSearch={setSearch}
      onChange={onChange}
    />
  );
}
