import { CampaignWord } from "@/components/words/CampaignWord";
import { SourceWord } from "@/components/words/SourceWord";

interface FromWhereProps {
  blog: string;
  campaign: string;
  source: string;
  onChange: (next: { campaign?: string; source?: string }) => void;
}

/** “from every campaign and every source”: the filter of a list of posts. */
export function FromWhere({ blog, campaign, source, onChange }: FromWhereProps) {
  return (
    <>
      from <CampaignWord blog={blog} value={campaign} onChange={(slug) => onChange({ campaign: slug })} /> and{" "}
      <SourceWord blog={blog} value={source} onChange={(key) => onChange({ source: key })} />
    </>
  );
}
