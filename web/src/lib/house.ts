import type { CampaignDocument } from "@/api/campaigns";
import type { Stage } from "@/api/proofs";
import { type Difference, differences } from "./document-diff";

/** Where rules differ from the defaults of the house; sources are each campaign’s own. */
export function houseDifferences(house: CampaignDocument, document: CampaignDocument): Difference[] {
  const mine = { ...document, gather: { ...document.gather, sources: house.gather.sources } };
  return differences(house, mine);
}

/** How many places of one stage differ from the house. */
export function differingAt(stage: Stage, house: CampaignDocument, document: CampaignDocument): number {
  return houseDifferences(house, document).filter(({ path }) => path.startsWith(`${stage} ›`)).length;
}
