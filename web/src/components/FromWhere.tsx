import { useQuery } from "@tanstack/react-query";
import { campaignsQuery } from "@/api/campaigns";
import { sourcesQuery } from "@/api/sources";
import { MOST_NAMED } from "@/components/Paging";
import { WordSelect } from "@/ui/WordSelect";

const ANY = "-any-";

interface FromWhereProps {
  blog: string;
  campaign: string;
  source: string;
  onChange: (next: { campaign?: string; source?: string }) => void;
}

/** “from every campaign and every source”: the filter of a list of posts. */
export function FromWhere({ blog, campaign, source, onChange }: FromWhereProps) {
  const campaigns = useQuery(campaignsQuery(blog, { limit: MOST_NAMED })).data?.rows ?? [];
  const sources = useQuery(sourcesQuery(blog, "", "title", 0, MOST_NAMED)).data?.rows ?? [];
  return (
    <>
      from{" "}
      <WordSelect
        label="Campaign"
        value={campaign || ANY}
        options={[
          { value: ANY, label: "every campaign" },
          ...campaigns.map(({ slug, name }) => ({ value: slug, label: name })),
        ]}
        onChange={(chosen) => onChange({ campaign: chosen === ANY ? "" : chosen })}
      />{" "}
      and{" "}
      <WordSelect
        label="Source"
        value={source || ANY}
        options={[
          { value: ANY, label: "every source" },
          ...sources.map(({ key, title }) => ({ value: key, label: title })),
        ]}
        onChange={(chosen) => onChange({ source: chosen === ANY ? "" : chosen })}
      />
    </>
  );
}
