import type { CampaignDocument, ShapeStep } from "@/api/campaigns";
import { faultAt } from "@/api/client";
import { same } from "@/lib/edits";
import { newStepId, withEntry } from "@/lib/rules";
import { Button } from "@/ui/Button";
import { WordList } from "@/ui/WordList";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { Effect } from "../rules/Effect";
import { LeadSentence } from "../rules/LeadSentence";
import { RuleCard } from "../rules/RuleCard";
import { TemplateField } from "../rules/TemplateField";
import type { BenchState } from "../useBench";

type Shape = CampaignDocument["shape"];

const UNITS = [
  { value: "words", label: "words" },
  { value: "sentences", label: "sentences" },
  { value: "paragraphs", label: "paragraphs" },
] as const;
const ORIGINS = [
  { value: "text", label: "text" },
  { value: "summary", label: "summary" },
] as const;

export function ShapePanel({ bench }: { bench: BenchState }) {
  const { shape } = bench.document;
  const saved = bench.saved.shape;
  const all = bench.proof.data?.items.length ?? 0;

  function set(next: Partial<Shape>, join = false) {
    bench.change((document) => ({ ...document, shape: { ...document.shape, ...next } }), join);
  }
  const setStep = (id: string, next: ShapeStep | null) => set({ steps: withEntry(shape.steps, id, next) });

  return (
    <>
      {shape.steps.map((step) => {
        const before = saved.steps.find((other) => other.id === step.id);
        const added = new Set(step.terms.filter((term) => before && !before.terms.includes(term)));
        return (
          <RuleCard
            key={step.id}
            name={`Step ${step.id}`}
            edited={!same(step, before)}
            on={step.on}
            onToggle={() => setStep(step.id, { ...step, on: !step.on })}
            onRemove={() => setStep(step.id, null)}
            footer={
              <Effect
                verb="changes"
                effect={bench.proof.data?.rules[`shape.${step.id}`]}
                of={all}
                bar="bg-ochre-mark"
              />
            }
          >
            <span className="font-medium">Take out paragraphs</span> that hold{" "}
            <WordList
              label="Terms"
              atLeastOne
              values={step.terms}
              added={added}
              onChange={(terms) => setStep(step.id, { ...step, terms })}
            />
          </RuleCard>
        );
      })}
      <Button
        small
        onClick={() =>
          set({
            steps: [
              ...shape.steps,
              {
                id: newStepId(bench.document),
                kind: "drop_paragraphs",
                on: true,
                terms: ["originally posted"],
              },
            ],
          })
        }
      >
        Add a step: take out paragraphs
      </Button>
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
