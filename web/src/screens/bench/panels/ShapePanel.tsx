import type { CampaignDocument } from "@/api/campaigns";
import { faultAt } from "@/api/client";
import { same } from "@/lib/edits";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { LeadSentence } from "../rules/LeadSentence";
import { RuleCard } from "../rules/RuleCard";
import { TemplateField } from "../rules/TemplateField";
import type { BenchState } from "../useBench";
import { StepList } from "./StepList";

type Shape = CampaignDocument["shape"];

const UNITS = [
  { value: "words", label: "words" },
  { value: "sentences", label: "sentences" },
  { value: "paragraphs", label: "paragraphs" },
  { value: "characters", label: "characters" },
] as const;
const ORIGINS = [
  { value: "text", label: "text" },
  { value: "summary", label: "summary" },
] as const;

export function ShapePanel({ bench }: { bench: BenchState }) {
  const { shape } = bench.document;
  const saved = bench.saved.shape;

  function set(next: Partial<Shape>, join = false) {
    bench.change((document) => ({ ...document, shape: { ...document.shape, ...next } }), join);
  }

  return (
    <>
      <StepList bench={bench} />
      <RuleCard name="Lead image" edited={!same(shape.lead, saved.lead)}>
        <LeadSentence lead={shape.lead} onChange={(lead) => set({ lead })} />
      </RuleCard>
      <RuleCard name="Excerpt" edited={!same(shape.excerpt, saved.excerpt)}>
        <span className="font-medium">Excerpt</span>: the first{" "}
        <WordNumber
          label="How many"
          value={shape.excerpt.count}
          max={1000}
          onChange={(count) => set({ excerpt: { ...shape.excerpt, count } })}
        />{" "}
        <WordSelect
          label="Unit"
          value={shape.excerpt.unit}
          options={UNITS}
          onChange={(unit) => set({ excerpt: { ...shape.excerpt, unit } })}
        />{" "}
        of the{" "}
        <WordSelect
          label="Taken from"
          value={shape.excerpt.taken_from}
          options={ORIGINS}
          onChange={(taken_from) => set({ excerpt: { ...shape.excerpt, taken_from } })}
        />
      </RuleCard>
      <RuleCard name="Title template" edited={shape.title !== saved.title}>
        <TemplateField
          label="Title"
          value={shape.title}
          rows={1}
          fault={faultAt(bench.proof.error, "shape.title")}
          onChange={(title) => set({ title }, true)}
        />
      </RuleCard>
      <RuleCard name="Body template" edited={shape.body !== saved.body}>
        <TemplateField
          label="Body"
          value={shape.body}
          rows={5}
          fault={faultAt(bench.proof.error, "shape.body")}
          onChange={(body) => set({ body }, true)}
        />
      </RuleCard>
    </>
  );
}
