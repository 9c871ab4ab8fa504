import type { Edit } from "@/api/posts";

/** Unsaved values of a post in the browser. */
export interface PostDraft {
  /** The version that it began from; 0 for a new post. */
  version: number;
  values: Edit;
  /** ISO 8601. */
  at: string;
}

const keyOf = (person: string, blog: string, post: number) => `post draft ${person} ${blog}/${post}`;

export function keepPostDraft(person: string, blog: string, post: number, draft: PostDraft): void {
  try {
    localStorage.setItem(keyOf(person, blog, post), JSON.stringify(draft));
  } catch {
    // A private or full browser stores no draft; leaving still asks.
  }
}

export function dropPostDraft(person: string, blog: string, post: number): void {
  try {
    localStorage.removeItem(keyOf(person, blog, post));
  } catch {
    // Nothing was stored.
  }
}

export function postDraftOf(person: string, blog: string, post: number): PostDraft | null {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(person, blog, post)) ?? "null");
    return kept && typeof kept.version === "number" && kept.values ? (kept as PostDraft) : null;
  } catch {
    return null;
  }
}
