import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Campaign = Schemas["CampaignOut"];
export type CampaignRow = Schemas["CampaignRowOut"];
export type CampaignDocument = Schemas["CampaignDocument"];
export type SiftRule = CampaignDocument["sift"]["rules"][number];
export type MatchRule = CampaignDocument["match"]["rules"][number];
export type ShapeStep = CampaignDocument["shape"]["steps"][number];
export type CategoryRule = CampaignDocument["place"]["category_rules"][number];
export type TagRule = CampaignDocument["place"]["tag_rules"][number];
export type HoldRule = CampaignDocument["release"]["hold_when"][number];
export type CustomField = CampaignDocument["shape"]["fields"][number];
export type Layout = Schemas["LayoutOut"];
export type Revision = Schemas["RevisionOut"];

export interface CampaignFilter {
  search?: string;
  mode?: CampaignDocument["release"]["mode"] | null;
  /** Only campaigns whose last run failed. */
  failed?: boolean;
  /** Only scheduled, paused or manual campaigns. */
  state?: "" | "scheduled" | "paused" | "hand";
  sort?: "name" | "run" | "next" | "newest";
  limit?: number;
  offset?: number;
}

export const campaignsQuery = (blog: string, filter: CampaignFilter = {}) =>
  queryOptions({
    queryKey: keys.campaigns(blog, filter),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/campaign-overview", {
          params: { path: { blog }, query: filter },
        }),
      ),
    placeholderData: keepPreviousData,
  });

/** The slugs of all campaigns that a filter finds, those of other pages too. */
export const findCampaignSlugs = (blog: string, { search, mode, failed, state }: CampaignFilter) =>
  unwrap(
    client.GET("/api/blogs/{blog}/found-campaigns", {
      params: {
        path: { blog },
        query: {
          ...(search && { search }),
          ...(mode && { mode }),
          ...(failed && { failed }),
          ...(state && { state }),
        },
      },
    }),
  );

/** Adds sources to what a campaign gathers, as a new revision. */
export function takeSources(blog: string, slug: string, sources: string[]): Promise<Schemas["TakenOut"]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/campaigns/{slug}/sources", {
      params: { path: { blog, slug } },
      body: { keys: sources },
    }),
  );
}

/** Make a campaign with the rules of another one. */
export async function copyCampaign(blog: string, slug: string): Promise<Campaign> {
  const { name, document } = await unwrap(
    client.GET("/api/blogs/{blog}/campaigns/{slug}", { params: { path: { blog, slug } } }),
  );
  return createCampaign(blog, `${name} (copy)`, document);
}

export const campaignQuery = (blog: string, slug: string) =>
  queryOptions({
    queryKey: keys.campaign(blog, slug),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/campaigns/{slug}", { params: { path: { blog, slug } } })),
    staleTime: 60_000,
  });

export const revisionsQuery = (blog: string, slug: string) =>
  queryOptions({
    queryKey: keys.campaign(blog, slug, "revisions"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/campaigns/{slug}/revisions", { params: { path: { blog, slug } } }),
      ),
  });

/** The campaigns that use each of these sources, by key. */
export const campaignsBySourceQuery = (blog: string, sources: readonly string[]) =>
  queryOptions({
    queryKey: keys.campaignsBySource(blog, sources),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/campaigns-by-source", {
          params: { path: { blog }, query: { sources: sources.join(",") } },
        }),
      ),
    placeholderData: keepPreviousData,
    enabled: sources.length > 0,
  });

/** A campaign that uses a word list or table. */
export type ListUser = Schemas["UserOut"];

export type Finding = Schemas["FindingOut"];

/** Every step from the address to the blog, and where it stops. */
export const checkupQuery = (blog: string, slug: string) =>
  queryOptions({
    queryKey: keys.checkup(blog, slug),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/campaigns/{slug}/checkup", { params: { path: { blog, slug } } })),
    // Asked because of a problem, so a cached answer is useless.
    staleTime: 0,
    gcTime: 0,
  });

export const libraryUsesQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.libraryUses(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/library-uses", { params: { path: { blog } } })),
    // Every saved revision can change it.
    staleTime: 0,
  });

export function createCampaign(blog: string, name: string, document: CampaignDocument): Promise<Campaign> {
  return unwrap(
    client.POST("/api/blogs/{blog}/campaigns", { params: { path: { blog } }, body: { name, document } }),
  );
}

export function saveRevision(
  blog: string,
  slug: string,
  body: { document: CampaignDocument; base: number; note: string },
): Promise<Campaign> {
  return unwrap(
    client.POST("/api/blogs/{blog}/campaigns/{slug}/revisions", { params: { path: { blog, slug } }, body }),
  );
}

export function renameCampaign(blog: string, slug: string, name: string): Promise<Campaign> {
  return unwrap(
    client.PATCH("/api/blogs/{blog}/campaigns/{slug}", { params: { path: { blog, slug } }, body: { name } }),
  );
}

export async function archiveCampaign(blog: string, slug: string, archived: boolean): Promise<void> {
  await unwrap(
    client.PUT("/api/blogs/{blog}/campaigns/{slug}/archived", {
      params: { path: { blog, slug } },
      body: { archived },
    }),
  );
}

export const archivedQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.campaigns(blog, "archived"),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/archived-campaigns", { params: { path: { blog } } })),
  });

/** The rows removed with a campaign. */
export const goesWithItQuery = (blog: string, slug: string) =>
  queryOptions({
    queryKey: keys.campaign(blog, slug, "goes-with-it"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/campaigns/{slug}/goes-with-it", { params: { path: { blog, slug } } }),
      ),
    gcTime: 0,
  });

export async function deleteCampaign(blog: string, slug: string): Promise<void> {
  await unwrap(
    client.POST("/api/blogs/{blog}/campaigns/{slug}/deletion", { params: { path: { blog, slug } } }),
  );
}

/** The number of items that a campaign would forget. */
export const memoryQuery = (blog: string, slug: string) =>
  queryOptions({
    queryKey: keys.campaign(blog, slug, "memory"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/campaigns/{slug}/memory", { params: { path: { blog, slug } } })),
    gcTime: 0,
  });

export function forgetMemory(blog: string, slug: string): Promise<Schemas["ForgetOut"]> {
  return unwrap(
    client.DELETE("/api/blogs/{blog}/campaigns/{slug}/memory", { params: { path: { blog, slug } } }),
  );
}

export const revisionQuery = (blog: string, slug: string, number: number) =>
  queryOptions({
    queryKey: keys.campaign(blog, slug, "revisions", number),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/campaigns/{slug}/revisions/{number}", {
          params: { path: { blog, slug, number } },
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const yamlQuery = (blog: string, slug: string) =>
  queryOptions({
    queryKey: keys.campaign(blog, slug, "yaml"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/campaigns/{slug}/yaml", { params: { path: { blog, slug } } })),
    gcTime: 0,
  });

export function readYaml(yaml: string): Promise<CampaignDocument> {
  return unwrap(client.POST("/api/campaign-documents", { body: { yaml } }));
}

/** The rules of a blog's new campaigns. */
export const defaultsQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.defaults(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/defaults", { params: { path: { blog } } })),
    staleTime: 60_000,
  });

export function setDefaults(blog: string, document: CampaignDocument): Promise<CampaignDocument> {
  return unwrap(client.PUT("/api/blogs/{blog}/defaults", { params: { path: { blog } }, body: document }));
}

export function clearDefaults(blog: string): Promise<CampaignDocument> {
  return unwrap(client.DELETE("/api/blogs/{blog}/defaults", { params: { path: { blog } } }));
}

export const layoutsQuery = queryOptions({
  queryKey: keys.layouts(),
  queryFn: () => unwrap(client.GET("/api/layouts")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const variablesQuery = queryOptions({
  queryKey: keys.templateVariables(),
  queryFn: () => unwrap(client.GET("/api/template-variables")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const againQuery = (blog: string, slug: string) =>
  queryOptions({
    queryKey: keys.campaign(blog, slug, "again"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/campaigns/{slug}/again", { params: { path: { blog, slug } } })),
    gcTime: 0,
  });

/** `spare` keeps posts that people have edited or commented. */
export function againFromNothing(blog: string, slug: string, spare: boolean): Promise<Schemas["AgainOut"]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/campaigns/{slug}/again", {
      params: { path: { blog, slug } },
      body: { spare },
    }),
  );
}
