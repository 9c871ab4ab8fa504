import type { CampaignDocument } from "@/api/campaigns";
import type { Stage } from "@/api/proofs";
import { plural } from "@/lib/format";

const SCOPES = {
  campaign: "against this campaign",
  blog: "against this blog",
  everything: "against every blog",
};

const RELEASES = {
  publish: "publish",
  hold: "hold for review",
  draft: "keep drafts",
  private: "publish privately",
  scheduled: "publish by date",
};

function placeNote(place: CampaignDocument["place"]): string {
  const rules = place.category_rules.filter((rule) => rule.on).length;
  const usual = place.category ? `to ${place.category}` : "no category";
  return rules ? `${plural(rules, "category rule")}, else ${usual}` : usual;
}

function gatherNote({ gather: { sources, labels } }: CampaignDocument): string {
  const labelled = labels.length ? [`all of ${labels.join(", ")}`] : [];
  return [...labelled, ...(sources.length || !labels.length ? [plural(sources.length, "source")] : [])].join(
    ", ",
  );
}

/** The settings of a stage in one line. */
export function stageNote(stage: Stage, document: CampaignDocument): string {
  switch (stage) {
    case "gather":
      return gatherNote(document);
    case "sift":
      return plural(document.sift.rules.filter((rule) => rule.on).length, "rule");
    case "match":
      return `duplicates, ${SCOPES[document.match.against]}`;
    case "shape":
      return `${plural(document.shape.steps.filter((step) => step.on).length, "step")}, templates`;
    case "place":
      return placeNote(document.place);
    case "release":
      return RELEASES[document.release.mode];
  }
}
