import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import type { CampaignDocument } from "./campaigns";
import { client, type Schemas, unwrap } from "./client";

export type Proof = Schemas["ProofOut"];
export type ProofRow = Schemas["ProofRowOut"];
export type Note = Schemas["NoteOut"];
export type Decision = Schemas["DecisionOut"];
export type Item = Schemas["ItemOut"];
export type Verdict = Schemas["Verdict"];
export type Stage = Schemas["Stage"];

export const proofQuery = (blog: string, slug: string, document: CampaignDocument) =>
  queryOptions({
    queryKey: ["proof", blog, slug, document],
    queryFn: () =>
      unwrap(
        client.POST("/api/blogs/{blog}/campaigns/{slug}/proof", {
          params: { path: { blog, slug } },
          body: { document },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    gcTime: 60_000,
    retry: false,
  });

interface ProofItem {
  document: CampaignDocument;
  item: number;
  as_of: string;
}

export const proofItemQuery = (blog: string, slug: string, body: ProofItem) =>
  queryOptions({
    queryKey: ["proof", blog, slug, body.document, body.item, body.as_of],
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
    queryKey: ["proof", blog, slug, body.document, body.item, body.as_of, "preview"],
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
