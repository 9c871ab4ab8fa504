import type { Note } from "@/api/proofs";

/** The words of a trace's codes and values. `strong` is the decisive part. */
export interface Words {
  strong: string;
  rest: string;
}

/** Words for the notes of a stage, by their codes. */
export type Wordings = Record<string, (note: Note) => Words>;

export type Data = Note["data"];

export function text(data: Data, key: string): string {
  const value: unknown = data[key];
  return value === null || value === undefined ? "" : String(value);
}

export function number(data: Data, key: string): number {
  return Number(data[key] ?? 0);
}

export function list(data: Data, key: string): string[] {
  const value: unknown = data[key];
  return Array.isArray(value) ? value.map(String) : [];
}

export interface TermHit {
  term: string;
  in: string;
  start: number;
  end: number;
  before: string;
  match: string;
  after: string;
  times: number;
}

export function hits(note: Note): TermHit[] {
  const value: unknown = note.data.hits;
  return Array.isArray(value) ? (value as TermHit[]) : [];
}

/** A name or value with its origin. */
export interface Given {
  name: string;
  because?: string;
  value?: string;
  text?: string;
}

export function given(data: Data, key: string): Given[] {
  const value: unknown = data[key];
  return Array.isArray(value) ? (value as Given[]) : [];
}
