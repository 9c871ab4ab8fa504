import type { CampaignDocument } from "@/api/campaigns";
import type { Stage } from "@/api/proofs";
import { type Difference, differences } from "./document-diff";

/** The differences of rules from the blog's defaults, without sources. */
export function defaultsDifferences(defaults: CampaignDocument, document: CampaignDocument): Difference[] {
  const mine = { ...document, gather: { ...document.gather, sources: defaults.gather.sources } };
  return differences(defaults, mine);
}

/** The number of differences at one stage. */
export function differingAt(stage: Stage, defaults: CampaignDocument, document: CampaignDocument): number {
  return defaultsDifferences(defaults, document).filter(({ path }) => path.startsWith(`${stage} ›`)).length;
}
