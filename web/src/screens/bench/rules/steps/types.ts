import type { ShapeStep } from "@/api/campaigns";

export type StepOf<K extends ShapeStep["kind"]> = Extract<ShapeStep, { kind: K }>;

export interface SentenceProps<K extends ShapeStep["kind"]> {
  step: StepOf<K>;
  onChange: (step: StepOf<K>) => void;
}
