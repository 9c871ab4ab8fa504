/** Returns the path of the only text that differs between two documents; null for other differences. */
export function changedText(before: unknown, after: unknown): string | null {
  const found = changes(before, after, "");
  return found.length === 1 && found[0] ? found[0] : null;
}

/** The paths of differing texts; an empty path for other differences. Stops after two. */
function changes(before: unknown, after: unknown, path: string): string[] {
  if (before === after) return [];
  if (typeof before === "string" && typeof after === "string") return [path];
  if (typeof before !== "object" || typeof after !== "object" || !before || !after) return [""];
  const [left, right] = [before as Record<string, unknown>, after as Record<string, unknown>];
  const keys = Object.keys(right);
  if (Array.isArray(before) !== Array.isArray(after) || Object.keys(left).length !== keys.length) return [""];
  const found: string[] = [];
  for (const key of keys) {
    found.push(...(key in left ? changes(left[key], right[key], `${path}.${key}`) : [""]));
    if (found.length > 1) break;
  }
  return found;
}
