import { keepPreviousData, queryOptions, replaceEqualDeep } from "@tanstack/react-query";
import type { CampaignDocument } from "./campaigns";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Proof = Schemas["ProofOut"];
export type ProofRow = Schemas["ProofRowOut"];
export type Note = Schemas["NoteOut"];
export type Decision = Schemas["DecisionOut"];
export type Item = Schemas["ItemOut"];
export type Version = Schemas["VersionOut"];
export type Verdict = Schemas["Verdict"];
export type Stage = Schemas["Stage"];

export type Over = Schemas["OverIn"];
export type SampleRow = Schemas["SampleRowOut"];

/** A request for a proof: rules, items, and the revision to compare with. */
export interface ProofAsked {
  document: CampaignDocument;
  over: Over;
  against: number | null;
}

/** Identifies this page, so that the server cancels a proof that a newer edit replaces. */
const BENCH = `${Date.now().toString(36)}-${Math.random().toString(36).slice(2)}`;
let turn = 0;

/** Merges a proof that has only the changed rows into its predecessor. */
export function completed(answer: Proof, last: Proof | undefined): Proof {
  if (!last) return answer;
  let items = answer.items;
  if (answer.differs_from === last.token) {
    const differing = new Map(items.map((row) => [row.id, row]));
    items = last.items.map((row) => differing.get(row.id) ?? row);
  }
  // Equal rows stay the same objects, so that they are not rendered again.
  return replaceEqualDeep(last, { ...answer, differs_from: "", items });
}

/**
 * Requests a proof. The server returns only the rows that differ from those of `last`;
 * the result has all rows.
 */
export const proofQuery = (blog: string, slug: string, asked: ProofAsked, last?: Proof) =>
  queryOptions({
    queryKey: keys.proof(blog, slug, asked),
    queryFn: async ({ signal }) => {
      const answer = await unwrap(
        client.POST("/api/blogs/{blog}/campaigns/{slug}/proof", {
          params: { path: { blog, slug } },
          body: { ...asked, known: last?.token ?? "", bench: BENCH, turn: ++turn },
          signal,
        }),
      );
      return completed(answer, last);
    },
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    gcTime: 60_000,
    retry: false,
  });

export interface ProofItem extends ProofAsked {
  item: number;
  as_of: string;
}

export const proofItemQuery = (blog: string, slug: string, body: ProofItem) =>
  queryOptions({
    queryKey: keys.proof(blog, slug, body),
    queryFn: () =>
      unwrap(
        client.POST("/api/blogs/{blog}/campaigns/{slug}/proof/item", {
          params: { path: { blog, slug } },
          body,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    retry: false,
  });

export const proofPreviewQuery = (blog: string, slug: string, body: ProofItem) =>
  queryOptions({
    queryKey: keys.proof(blog, slug, body, "preview"),
    queryFn: () =>
      unwrap(
        client.POST("/api/blogs/{blog}/campaigns/{slug}/proof/preview", {
          params: { path: { blog, slug } },
          body,
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    retry: false,
  });

export const proofStepQuery = (blog: string, slug: string, body: ProofItem & { step: string }) =>
  queryOptions({
    queryKey: keys.proof(blog, slug, body, "step"),
    queryFn: () =>
      unwrap(
        client.POST("/api/blogs/{blog}/campaigns/{slug}/proof/step", {
          params: { path: { blog, slug } },
          body,
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    retry: false,
  });

export type Tried = Schemas["TriedOut"];

/** What several rules would make of the newest items of their sources, in the order of the rules. */
export const triedRulesQuery = (blog: string, documents: CampaignDocument[]) =>
  queryOptions({
    queryKey: keys.proof(blog, "tried", documents),
    queryFn: ({ signal }) =>
      unwrap(
        client.POST("/api/blogs/{blog}/tried-rules", {
          params: { path: { blog } },
          body: { documents },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    gcTime: 60_000,
    retry: false,
  });

export const samplesQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.samples(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/samples", { params: { path: { blog } } })),
  });

interface SampleBody {
  address?: string;
  /** The bytes of a feed in Base64. */
  content?: string;
  name?: string;
}

export function keepSample(
  blog: string,
  { address = "", content = "", name = "" }: SampleBody,
): Promise<SampleRow> {
  return unwrap(
    client.POST("/api/blogs/{blog}/samples", {
      params: { path: { blog } },
      body: { address, content, name },
    }),
  );
}

export function renameSample(blog: string, number: number, name: string): Promise<SampleRow> {
  return unwrap(
    client.PATCH("/api/blogs/{blog}/samples/{number}", {
      params: { path: { blog, number } },
      body: { name },
    }),
  );
}

export function removeSample(blog: string, number: number): Promise<unknown> {
  return unwrap(client.DELETE("/api/blogs/{blog}/samples/{number}", { params: { path: { blog, number } } }));
}
