import { useQuery } from "@tanstack/react-query";
import { type CampaignDocument, defaultsQuery } from "@/api/campaigns";
import { type Tried, triedRulesQuery } from "@/api/proofs";
import type { Chosen } from "@/components/source-choice/SourceChoice";
import { documentOf, STARTS } from "@/lib/starts";
import { useSettled } from "@/lib/useSettled";

export interface TriedStarts {
  /** By the key of the start; empty while nothing is known. */
  by: ReadonlyMap<string, Tried>;
  pending: boolean;
  error: Error | null;
  retry: () => void;
}

/** What each start would make of the newest items of the chosen sources. */
export function useTriedStarts(
  blog: string,
  chosen: Chosen,
  mode: CampaignDocument["release"]["mode"],
): TriedStarts {
  // As text, because a form gives equal values as new objects, which would never settle.
  const settled: Chosen = JSON.parse(useSettled(JSON.stringify(chosen)));
  const some = settled.sources.length + settled.labels.length > 0;
  const defaults = useQuery({ ...defaultsQuery(blog), enabled: some }).data;
  const documents = defaults && STARTS.map(({ key }) => documentOf(defaults, key, settled, mode));
  const tried = useQuery({
    ...triedRulesQuery(blog, documents ?? []),
    enabled: some && documents !== undefined,
  });
  const known = some ? tried.data : undefined;
  const by = new Map<string, Tried>();
  STARTS.forEach(({ key }, place) => {
    const one = known?.[place];
    if (one) by.set(key, one);
  });
  return { by, pending: some && !tried.data && !tried.error, error: tried.error, retry: tried.refetch };
}
