import { useQuery } from "@tanstack/react-query";
import { type CampaignDocument, layoutsQuery } from "@/api/campaigns";
import { faultAt } from "@/api/client";
import { same } from "@/lib/editing/edits";
import { Menu } from "@/ui/Menu";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { CopiesSentence } from "../rules/CopiesSentence";
import { ExcerptSentence } from "../rules/ExcerptSentence";
import { LeadSentence } from "../rules/LeadSentence";
import { RuleCard } from "../rules/RuleCard";
import { TemplateField } from "../rules/TemplateField";
import type { BenchState } from "../useBench";
import { FieldCards } from "./FieldCards";
import { Holes } from "./Holes";
import { StepList } from "./StepList";

type Shape = CampaignDocument["shape"];

const TEMPLATES = [
  { part: "title", label: "Title", rows: 1 },
  { part: "body", label: "Body", rows: 5 },
  { part: "excerpt_text", label: "Excerpt", rows: 1 },
  { part: "address", label: "Address", rows: 1 },
  { part: "description", label: "Description", rows: 1 },
] as const;

export function ShapePanel({ blog, bench }: { blog: string; bench: BenchState }) {
  const layouts = useQuery(layoutsQuery).data ?? [];
  const { shape } = bench.document;
  const saved = bench.saved.shape;
  const fields = Object.fromEntries(
    shape.fields.map((field) => [`fields.${field.name}`, field.label || "Field of the blog"]),
  );

  function set(next: Partial<Shape>) {
    bench.change((document) => ({ ...document, shape: { ...document.shape, ...next } }));
  }

  return (
    <>
      <Holes holes={bench.proof.data?.holes ?? []} />
      <StepList blog={blog} bench={bench} />
      <RuleCard name="Lead image" edited={!same(shape.lead, saved.lead)}>
        <LeadSentence lead={shape.lead} onChange={(lead) => set({ lead })} />
      </RuleCard>
      <RuleCard name="Copies" edited={!same(shape.copies, saved.copies)}>
        <CopiesSentence copies={shape.copies} onChange={(copies) => set({ copies })} />
      </RuleCard>
      <RuleCard name="Excerpt" edited={!same(shape.excerpt, saved.excerpt)}>
        <ExcerptSentence excerpt={shape.excerpt} onChange={(excerpt) => set({ excerpt })} />
      </RuleCard>
      {(shape.steps.some((step) => "services" in step) ||
        bench.document.release.editions.length > 0 ||
        shape.characters_a_day !== null) && (
        <RuleCard name="Language services" edited={shape.characters_a_day !== saved.characters_a_day}>
          Language services get{" "}
          <OptionalNumber
            label="Characters a day"
            value={shape.characters_a_day ?? null}
            none="as much of this campaign as there is"
            usual={20_000}
            max={1_000_000_000}
            unit="characters of this campaign a day at most"
            onChange={(characters_a_day) => set({ characters_a_day })}
          />
          .
        </RuleCard>
      )}
      <FieldCards bench={bench} />
      {TEMPLATES.map(({ part, label, rows }) => (
        <RuleCard key={part} name={`${label} template`} edited={shape[part] !== saved[part]}>
          <TemplateField
            label={label}
            value={shape[part]}
            rows={rows}
            more={fields}
            takesOffers={part === "body"}
            fault={faultAt(bench.proof.error, `shape.${part}`)}
            onChange={(value) => set({ [part]: value })}
            aside={
              part === "body" && (
                <Menu
                  trigger={
                    <button
                      type="button"
                      className="h-6 rounded px-1.5 text-xs font-semibold text-verd hover:bg-sunk"
                    >
                      Layouts
                    </button>
                  }
                  entries={layouts.map((layout) => ({
                    label: layout.name,
                    hint: layout.purpose,
                    onSelect: () => set({ body: layout.body }),
                  }))}
                />
              )
            }
          />
        </RuleCard>
      ))}
    </>
  );
}
