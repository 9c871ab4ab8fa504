import { useQuery } from "@tanstack/react-query";
import { type CampaignDocument, defaultsQuery } from "@/api/campaigns";
import type { Stage } from "@/api/proofs";
import { plural } from "@/lib/format";
import { differingAt } from "@/lib/house";

interface HouseMarkProps {
  blog: string;
  stage: Stage;
  document: CampaignDocument;
}

/** How far a stage differs from the defaults of the house. */
export function HouseMark({ blog, stage, document }: HouseMarkProps) {
  const house = useQuery(defaultsQuery(blog)).data;
  const number = house ? differingAt(stage, house, document) : 0;
  if (!number) return null;
  return (
    <span
      className="ml-auto shrink-0 rounded border border-line px-1.5 text-[11px] text-ink2"
      title={`${plural(number, "place differs", "places differ")} from the house defaults: see “House defaults” in the menu`}
    >
      {number} unlike house
    </span>
  );
}
