/** The kinds of posts that the blog's own fronts know; a person may name others. */
export const POST_KINDS = ["article", "brief", "film", "episode", "product", "guide"] as const;

/** A typed name of a kind in small letters, digits and hyphens. */
export function kindOf(typed: string): string {
  return typed
    .toLowerCase()
    .replace(/\s/g, "-")
    .replace(/[^a-z0-9-]/g, "")
    .replace(/^[^a-z]+/, "")
    .slice(0, 40);
}
