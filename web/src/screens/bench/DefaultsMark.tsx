import { useQuery } from "@tanstack/react-query";
import { type CampaignDocument, defaultsQuery } from "@/api/campaigns";
import type { Stage } from "@/api/proofs";
import { differingAt } from "@/lib/defaults";
import { plural } from "@/lib/format";

interface DefaultsMarkProps {
  blog: string;
  stage: Stage;
  document: CampaignDocument;
}

/** The number of differences of a stage from the defaults. */
export function DefaultsMark({ blog, stage, document }: DefaultsMarkProps) {
  const defaults = useQuery(defaultsQuery(blog)).data;
  const number = defaults ? differingAt(stage, defaults, document) : 0;
  if (!number) return null;
  return (
    <span
      className="ml-auto shrink-0 rounded border border-line px-1.5 text-[11px] text-ink2"
      title={`${plural(number, "place differs", "places differ")} from the defaults of the blog: see “Defaults of the blog” in the menu`}
    >
      {plural(number, "change", "changes")}
    </span>
  );
}
