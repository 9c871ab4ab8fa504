import type { CampaignDocument } from "@/api/campaigns";

/** Unsaved edits of a campaign in the browser. */
export interface Draft {
  /** The revision they began from, and its rules. */
  revision: number;
  saved: CampaignDocument;
  now: CampaignDocument;
  /** ISO 8601. */
  at: string;
}

function keyOf(person: string, blog: string, slug: string): string {
  return `draft ${person} ${blog}/${slug}`;
}

export function keepDraft(person: string, blog: string, slug: string, draft: Draft): void {
  try {
    localStorage.setItem(keyOf(person, blog, slug), JSON.stringify(draft));
  } catch {
    // A private or full browser stores no draft; leaving still asks.
  }
}

export function dropDraft(person: string, blog: string, slug: string): void {
  try {
    localStorage.removeItem(keyOf(person, blog, slug));
  } catch {
    // Nothing was stored.
  }
}

/** Returns the draft of a campaign; null for none or an unreadable one. */
export function draftOf(person: string, blog: string, slug: string): Draft | null {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(person, blog, slug)) ?? "null");
    const complete = kept && typeof kept.revision === "number" && kept.saved?.gather && kept.now?.gather;
    return complete ? (kept as Draft) : null;
  } catch {
    return null;
  }
}
