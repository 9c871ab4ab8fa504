import type { SiftRule } from "@/api/campaigns";
import kinds from "@/api/sift-kinds.json";

/** A word of a rule's sentence that people change. */
export type Place =
  | { type: "choice"; label: string; options: Record<string, string> }
  | { type: "number"; label: string; least: number; most: number; whole: boolean }
  | { type: "hours"; label: string; most: number }
  | { type: "text"; label: string; placeholder: string; only_for: [string, string] | null };

/** The words of a finding. Names in braces stand for values of its note. */
export interface FindingWords {
  strong: string;
  rest: string;
  reason: string;
}

export type SiftKind = SiftRule["kind"];

/** A kind of filter rule as core describes it. Only kinds with a sentence are drawn from it. */
export interface SiftKindInfo {
  kind: SiftKind;
  label: string;
  hint: string;
  /** The settings of a new rule. */
  start: Record<string, unknown>;
  /** Words between asterisks stand out, names in braces are places. */
  sentence: string;
  places: Record<string, Place>;
  findings: Record<string, FindingWords>;
}

/** The kinds of filter rules in the order of menus. */
export const SIFT_KINDS = kinds as unknown as readonly SiftKindInfo[];

export function siftKind(kind: string): SiftKindInfo | undefined {
  return SIFT_KINDS.find((info) => info.kind === kind);
}

export interface Piece {
  kind: "words" | "strong" | "place";
  text: string;
}

/** The pieces of a sentence: plain words, words that stand out, and the names of places. */
export function piecesOf(sentence: string): Piece[] {
  return sentence
    .split(/(\{\w+\}|\*[^*]+\*)/)
    .filter(Boolean)
    .map((part): Piece => {
      if (part.startsWith("{")) return { kind: "place", text: part.slice(1, -1) };
      if (part.startsWith("*")) return { kind: "strong", text: part.slice(1, -1) };
      return { kind: "words", text: part };
    });
}
