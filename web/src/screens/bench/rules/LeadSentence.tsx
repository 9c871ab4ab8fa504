import type { CampaignDocument } from "@/api/campaigns";
import { WordSelect } from "@/ui/WordSelect";

type Lead = CampaignDocument["shape"]["lead"];
type From = Lead["order"][number];

const ORDERS: readonly { value: string; label: string }[] = [
  { value: "feed,enclosure,text", label: "feed, enclosure, text" },
  { value: "enclosure,feed,text", label: "enclosure, feed, text" },
  { value: "text,feed,enclosure", label: "text, feed, enclosure" },
  { value: "feed,enclosure", label: "feed, enclosure" },
  { value: "text", label: "text only" },
  { value: "", label: "nowhere" },
];
const PLACES = [
  { value: "out", label: "taken out of the body" },
  { value: "in", label: "left in the body as well" },
] as const;

export function LeadSentence({ lead, onChange }: { lead: Lead; onChange: (lead: Lead) => void }) {
  const order = lead.order.join(",");
  const known = ORDERS.some((one) => one.value === order);
  const options = known ? ORDERS : [...ORDERS, { value: order, label: lead.order.join(", ") }];
  return (
    <>
      <span className="font-medium">Lead image</span> from{" "}
      <WordSelect
        label="Order of preference"
        value={order || "none"}
        options={options.map((one) => ({ ...one, value: one.value || "none" }))}
        onChange={(next) => onChange({ ...lead, order: next === "none" ? [] : (next.split(",") as From[]) })}
      />
      , and{" "}
      <WordSelect
        label="In the body"
        value={lead.take_out_of_body ? "out" : "in"}
        options={PLACES}
        onChange={(place) => onChange({ ...lead, take_out_of_body: place === "out" })}
      />
    </>
  );
}
