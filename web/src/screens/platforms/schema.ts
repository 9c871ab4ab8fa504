import type { Asks, Connection, Platform } from "@/api/platforms";

interface Node {
  title?: string;
  description?: string;
  type?: string;
  format?: string;
  enum?: string[];
  default?: unknown;
  minimum?: number;
  maximum?: number;
  maxLength?: number;
  items?: Node;
  anyOf?: Node[];
  allOf?: Node[];
  $ref?: string;
}

export type FieldKind = "text" | "lines" | "number" | "yes" | "choice" | "day" | "texts" | "mapping";

/** One parameter as the form shows it. */
export interface FormField {
  name: string;
  label: string;
  hint: string;
  kind: FieldKind;
  choices: string[];
  start: unknown;
  least?: number | undefined;
  most?: number | undefined;
  longest?: number | undefined;
}

const STARTS: Record<FieldKind, unknown> = {
  text: "",
  lines: "",
  number: 0,
  yes: false,
  choice: "",
  day: null,
  texts: [],
  mapping: {},
};

/** Texts that may be longer get a field of several lines. */
const LONG = 2_000;

function kindOf(node: Node): FieldKind {
  if (node.enum) return "choice";
  if (node.type === "boolean") return "yes";
  if (node.type === "integer" || node.type === "number") return "number";
  if (node.type === "array") return "texts";
  if (node.type === "object") return "mapping";
  if (node.format === "date") return "day";
  return (node.maxLength ?? 0) > LONG ? "lines" : "text";
}

/** The fields of a platform's parameters, from their JSON Schema (2020-12). */
export function fieldsOf(form: Platform["form"]): FormField[] {
  const definitions = (form.$defs ?? {}) as Record<string, Node>;
  const resolved = (node: Node): Node => {
    const [other] = node.allOf ?? (node.anyOf ?? []).filter(({ type }) => type !== "null");
    const inner = node.$ref ? definitions[node.$ref.split("/").at(-1) ?? ""] : other && resolved(other);
    return { ...inner, ...node };
  };
  return Object.entries((form.properties ?? {}) as Record<string, Node>).map(([name, given]) => {
    const node = resolved(given);
    const kind = kindOf(node);
    return {
      name,
      label: given.title ?? name,
      hint: given.description ?? "",
      kind,
      choices: node.enum ?? [],
      start: node.default ?? STARTS[kind],
      least: node.minimum,
      most: node.maximum,
      longest: node.maxLength,
    };
  });
}

/** The fields of the form that show faults. */
export function namesOf(platform: Platform): string[] {
  return fieldsOf(platform.form).map(({ name }) => `parameters.${name}`);
}

/** Whether it is any API with JSON, whose fields a person finds in an answer. */
export function isJsonApi(platform: Platform): boolean {
  return platform.key.startsWith("json");
}

/** The initial values of the form. */
export function startOf(platform: Platform): Record<string, unknown> {
  const starts = Object.fromEntries(fieldsOf(platform.form).map(({ name, start }) => [name, start]));
  return isJsonApi(platform)
    ? { ...starts, fields: { id: "id", title: "title", text: "text", date: "date", link: "url" } }
    : starts;
}

/** A choice as people read it: most_seen is “most seen”. */
export function choiceWords(value: string): string {
  return value.replaceAll("_", " ");
}

/** Whether a platform answers only with a key. */
export function needsConnection(platform: Platform): boolean {
  return !isJsonApi(platform);
}

/** Parameters with the only connection that fits, where none is chosen and one is needed. */
export function withOnly(asks: Asks, platform: Platform, connections: readonly Connection[]): Asks {
  const [only, ...others] = connections.filter((one) => one.platform === platform.key);
  if (asks.connection || !only || others.length || !needsConnection(platform)) return asks;
  return { ...asks, connection: only.key };
}
