import { queryOptions } from "@tanstack/react-query";
import { ProblemError } from "./client";
import { keys } from "./keys";

interface Operation {
  operationId: string;
  summary?: string;
  description?: string;
  tags?: string[];
}

/** The part of an OpenAPI document that the page of the API shows. */
export interface OpenApi {
  info: { title: string; version: string };
  paths: Record<string, Record<string, Operation>>;
}

export const OPENAPI_ADDRESS = "/api/openapi.json";

export const openApiQuery = queryOptions({
  queryKey: keys.openapi(),
  queryFn: async (): Promise<OpenApi> => {
    const answer = await fetch(OPENAPI_ADDRESS);
    if (!answer.ok) throw new ProblemError(answer.status, "The server does not answer", "Try again.");
    return answer.json();
  },
  staleTime: Number.POSITIVE_INFINITY,
});
