import type { CampaignDocument } from "@/api/campaigns";
import type { Stage } from "@/api/proofs";
import { nameOf } from "./rules";
import { STAGE_NAMES, STAGES } from "./wording";

/** The place of a fault on the bench. */
export interface FaultPlace {
  stage: Stage;
  /** The rule or step that is at fault, if it is one. */
  id: string | null;
  words: string;
}

/** Returns the place of a document path (`sift.rules.0.terms`); null for none. */
export function faultPlace(document: CampaignDocument, path: string): FaultPlace | null {
  const parts = path.split(".");
  const start = parts.findIndex((part) => (STAGES as readonly string[]).includes(part));
  const stage = parts[start] as Stage | undefined;
  if (!stage) return null;
  let value: unknown = document;
  for (const part of parts.slice(start)) {
    value = (value as Record<string, unknown> | null)?.[part];
    const { id, title } = (value ?? {}) as { id?: unknown; title?: unknown };
    if (typeof id === "string") {
      const name = nameOf({ id, title: String(title ?? "") });
      return { stage, id, words: `${STAGE_NAMES[stage]}, ${stage === "shape" ? "step" : "rule"} ${name}` };
    }
    if (typeof value !== "object" || value === null) break;
  }
  return { stage, id: null, words: STAGE_NAMES[stage] };
}
