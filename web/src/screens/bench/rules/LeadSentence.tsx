import type { CampaignDocument } from "@/api/campaigns";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordOrder } from "@/ui/WordOrder";
import { WordSelect } from "@/ui/WordSelect";
import { BlogPictures } from "./BlogPictures";
import { LeadPool } from "./LeadPool";

type Lead = CampaignDocument["shape"]["lead"];

const ORIGINS = [
  { value: "feed", label: "feed" },
  { value: "enclosure", label: "enclosure" },
  { value: "page", label: "linked page" },
  { value: "text", label: "text" },
  { value: "blog", label: "pictures of the blog" },
] as const;
const PLACES = [
  { value: "out", label: "taken out of the body" },
  { value: "in", label: "left in the body as well" },
] as const;
const UNKNOWN = [
  { value: "counts", label: "counts" },
  { value: "not", label: "does not count" },
] as const;

export function LeadSentence({ lead, onChange }: { lead: Lead; onChange: (lead: Lead) => void }) {
  const sized = lead.least_width > 0 || lead.least_height > 0;
  return (
    <>
      <span className="font-medium">Lead image</span> from{" "}
      <WordOrder
        label="Order of preference"
        values={lead.order}
        options={ORIGINS}
        none="nowhere"
        onChange={(order) => onChange({ ...lead, order })}
      />
      , at least{" "}
      <OptionalNumber
        label="Width"
        value={lead.least_width || null}
        none="any width"
        usual={400}
        max={10_000}
        unit="px wide"
        onChange={(width) => onChange({ ...lead, least_width: width ?? 0 })}
      />{" "}
      <OptionalNumber
        label="Height"
        value={lead.least_height || null}
        none="any height"
        usual={300}
        max={10_000}
        unit="px high"
        onChange={(height) => onChange({ ...lead, least_height: height ?? 0 })}
      />
      {sized && (
        <>
          , one of unknown size{" "}
          <WordSelect
            label="Pictures of unknown size"
            value={lead.unknown_size_counts ? "counts" : "not"}
            options={UNKNOWN}
            onChange={(value) => onChange({ ...lead, unknown_size_counts: value === "counts" })}
          />
        </>
      )}
      ; it is{" "}
      <WordSelect
        label="In the body"
        value={lead.take_out_of_body ? "out" : "in"}
        options={PLACES}
        onChange={(place) => onChange({ ...lead, take_out_of_body: place === "out" })}
      />
      {lead.order.includes("blog") && (
        <LeadPool pool={lead.pool} onChange={(pool) => onChange({ ...lead, pool })} />
      )}
      {lead.order.includes("blog") && (
        <BlogPictures pictures={lead.pictures} onChange={(pictures) => onChange({ ...lead, pictures })} />
      )}
    </>
  );
}
