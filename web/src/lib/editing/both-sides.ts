import { differences } from "@/lib/document-diff";

/** A place that one person or both have changed. An empty side left it as it was. */
export interface Place {
  path: string;
  before: string;
  theirs: string | null;
  mine: string | null;
}

/** What another person and I have made of the same version, place by place. */
export function bothSides(base: unknown, theirs: unknown, mine: unknown): Place[] {
  const [their, my] = [differences(base, theirs), differences(base, mine)].map(
    (list) => new Map(list.map((one) => [one.path, one])),
  );
  const paths = new Set([...(their?.keys() ?? []), ...(my?.keys() ?? [])]);
  return [...paths].map((path) => ({
    path,
    before: (their?.get(path) ?? my?.get(path))?.before ?? "",
    theirs: their?.get(path)?.after ?? null,
    mine: my?.get(path)?.after ?? null,
  }));
}
