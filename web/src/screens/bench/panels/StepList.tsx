import { useQuery } from "@tanstack/react-query";
import { blogQuery } from "@/api/blogs";
import type { CampaignDocument, ShapeStep } from "@/api/campaigns";
import { faultAt } from "@/api/client";
import { type Service, servicesQuery } from "@/api/services";
import { same } from "@/lib/editing/edits";
import { hasMoved, moved, nameOf, newId, withCopy, withEntry } from "@/lib/rules";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { SortableList } from "@/ui/SortableList";
import { Effect } from "../rules/Effect";
import { MoveButtons } from "../rules/MoveButtons";
import { RuleCard } from "../rules/RuleCard";
import { newStep, STEP_KINDS } from "../rules/steps/kinds";
import { StepSentence } from "../rules/steps/StepSentence";
import type { BenchState } from "../useBench";

/** The first service that can do what a step asks. */
function ableTo(services: readonly Service[], kind: string): string | undefined {
  const task = kind === "rewrite" ? "reword" : "translate";
  return services.find(({ tasks }) => tasks.includes(task))?.key;
}

type Steps = CampaignDocument["shape"]["steps"];

/** Kinds whose sentence shows the place of the fault itself. */
const SHOWS_ITS_FAULTS: ReadonlySet<string> = new Set(["select", "replace", "standing", "translate"]);

function faultOf(bench: BenchState, index: number): string | undefined {
  return faultAt(bench.proof.error, `shape.steps.${index}`, true);
}

/** The steps in order, moved by handles or arrows. */
export function StepList({ blog, bench }: { blog: string; bench: BenchState }) {
  const { steps } = bench.document.shape;
  const saved = bench.saved.shape.steps;
  const table = useQuery(blogQuery(blog)).data?.term_tables[0]?.key;
  const services = useQuery(servicesQuery(blog)).data?.services ?? [];
  const fields = bench.document.shape.fields.map((field) => field.name);
  const all = bench.proof.data?.items.length ?? 0;

  const set = (next: Steps) =>
    bench.change((document) => ({ ...document, shape: { ...document.shape, steps: next } }));
  const setStep = (id: string, next: ShapeStep | null) => set(withEntry(steps, id, next));

  return (
    <>
      <SortableList
        label="Steps"
        one="step"
        entries={steps}
        nameOf={nameOf}
        onMove={(from, to) => set(moved(steps, from, to))}
      >
        {(step, index, handle) => (
          <RuleCard
            name={`step ${nameOf(step)}`}
            rule={step.id}
            title={step.title}
            fault={SHOWS_ITS_FAULTS.has(step.kind) ? undefined : faultOf(bench, index)}
            edited={
              !same(
                step,
                saved.find((other) => other.id === step.id),
              ) || hasMoved(steps, saved, index)
            }
            on={step.on}
            onTitle={(title) => setStep(step.id, { ...step, title })}
            onCopy={() => set(withCopy(steps, step.id))}
            onToggle={() => setStep(step.id, { ...step, on: !step.on })}
            onRemove={() => setStep(step.id, null)}
            handles={
              <>
                {handle}
                <MoveButtons
                  name={`step ${nameOf(step)}`}
                  index={index}
                  count={steps.length}
                  onMove={(to) => set(moved(steps, index, to))}
                />
              </>
            }
            footer={
              <Effect
                verb="changes"
                effect={bench.proof.data?.rules[`shape.${step.id}`]}
                of={all}
                bar="bg-ochre-mark"
              />
            }
          >
            <StepSentence
              blog={blog}
              step={step}
              saved={saved.find((other) => other.id === step.id)}
              fault={faultOf(bench, index)}
              fields={fields}
              onChange={(next) => setStep(step.id, next)}
            />
          </RuleCard>
        )}
      </SortableList>
      <Menu
        trigger={<Button small>Add a step</Button>}
        entries={STEP_KINDS.map(({ kind, label, hint }) => ({
          label,
          hint,
          onSelect: () =>
            set([
              ...steps,
              newStep(kind, newId(kind.replace("_", "-"), steps), table, ableTo(services, kind)),
            ]),
        }))}
      />
    </>
  );
}
