import createClient from "openapi-fetch";
import type { components, paths } from "./schema";
import { withToken } from "./token";

export type Schemas = components["schemas"];

export interface Fault {
  path: string;
  message: string;
  hint: string;
}

/** The server's error (problem+json, RFC 9457). */
export class ProblemError extends Error {
  readonly status: number;
  readonly title: string;
  readonly faults: readonly Fault[];

  constructor(status: number, title: string, detail: string, faults: readonly Fault[] = []) {
    super(detail);
    this.status = status;
    this.title = title;
    this.faults = faults;
  }
}

export const client = createClient<paths>({ baseUrl: "" });
client.use(withToken);

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

function problemOf(body: unknown, response: Response): ProblemError {
  const given = (typeof body === "object" && body !== null ? body : {}) as Partial<Record<string, unknown>>;
  const detail = typeof given.detail === "string" ? given.detail : "The server gave no reason. Try again.";
  const title = typeof given.title === "string" ? given.title : `The server answered with ${response.status}`;
  return new ProblemError(response.status, title, detail, Array.isArray(given.faults) ? given.faults : []);
}

/** Returns the data of an answer, or throws the server's error. */
export async function unwrap<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new ProblemError(0, "The server does not answer", "Look whether it still runs, then try again.");
  }
  if (!answer.response.ok) throw problemOf(answer.error, answer.response);
  return answer.data as T;
}

/** Whether an error names a fault in one of these fields or below it. */
export function hasFaultIn(error: Error, fields: readonly string[]): boolean {
  return fields.some((field) => faultAt(error, field, true) !== undefined);
}

/** The server's faults at a path of a document or below it. */
export function faultAt(error: Error | null, path: string, below = false): string | undefined {
  if (!(error instanceof ProblemError)) return undefined;
  return error.faults.find((fault) => fault.path.endsWith(path) || (below && fault.path.includes(`${path}.`)))
    ?.message;
}
