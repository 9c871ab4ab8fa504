import type { CampaignDocument } from "@/api/campaigns";
import type { Stage } from "@/api/proofs";
import { type Difference, differences } from "./document-diff";

/** Where rules differ from the defaults of the blog; sources are each campaign’s own. */
export function defaultsDifferences(defaults: CampaignDocument, document: CampaignDocument): Difference[] {
  const mine = { ...document, gather: { ...document.gather, sources: defaults.gather.sources } };
  return differences(defaults, mine);
}

/** How many places of one stage differ from the defaults. */
export function differingAt(stage: Stage, defaults: CampaignDocument, document: CampaignDocument): number {
  return defaultsDifferences(defaults, document).filter(({ path }) => path.startsWith(`${stage} ›`)).length;
}
