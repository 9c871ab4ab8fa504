import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Source = Schemas["SourceOut"];
export type Checked = Schemas["CheckedOut"];
export type Reading = Schemas["ReadingOut"];
export type SourceSort = "title" | "added" | "read" | "health";
export type Health = Schemas["Health"];

export const sourcesQuery = (
  blog: string,
  search = "",
  sort: SourceSort = "title",
  offset = 0,
  limit = 50,
  health: Health | null = null,
  label = "",
) =>
  queryOptions({
    queryKey: keys.sources(blog, search, sort, offset, limit, health, label),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/sources", {
          params: { path: { blog }, query: { search, sort, offset, limit, health, label } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const sourceQuery = (blog: string, key: string) =>
  queryOptions({
    queryKey: keys.source(blog, key),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/sources/{key}", { params: { path: { blog, key } } })),
  });

export function checkAddresses(blog: string, addresses: string[]): Promise<Checked[]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/sources/check", { params: { path: { blog } }, body: { addresses } }),
  );
}

export function addSource(
  blog: string,
  url: string,
  title: string,
  right: Schemas["Right"] | null,
): Promise<Schemas["AddedOut"]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/new-source", { params: { path: { blog } }, body: { url, title, right } }),
  );
}

export function readSource(blog: string, key: string): Promise<Reading> {
  return unwrap(client.POST("/api/blogs/{blog}/sources/{key}/read", { params: { path: { blog, key } } }));
}

export async function removeSource(blog: string, key: string): Promise<void> {
  await unwrap(client.DELETE("/api/blogs/{blog}/sources/{key}", { params: { path: { blog, key } } }));
}

export type SourceChoices = Schemas["ChangeSourceIn"];

/** The settings of a source as they are now. */
export function choicesOf(source: Source): SourceChoices {
  const { title, right, right_words, attribution, keyword, reads_pages } = source;
  const { full_text_words, text_reader, text_selector, rendered, rendered_hosts } = source;
  return {
    ...{ title, right, right_words, attribution, keyword, reads_pages },
    ...{ full_text_words, text_reader, text_selector, rendered, rendered_hosts },
  };
}

export function changeSource(blog: string, key: string, body: Schemas["ChangeSourceIn"]): Promise<Source> {
  return unwrap(client.PATCH("/api/blogs/{blog}/sources/{key}", { params: { path: { blog, key } }, body }));
}

export type PageTexts = Schemas["PageTextsOut"];

/** The outcomes of fetching a source's pages for texts, polled while that is under way. */
export const pageTextsQuery = (blog: string, key: string) =>
  queryOptions({
    queryKey: keys.source(blog, key, "texts"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/sources/{key}/texts", { params: { path: { blog, key } } })),
    refetchInterval: (query) => (query.state.data?.under_way ? 1000 : false),
  });

export function askPages(blog: string, key: string, again: boolean): Promise<PageTexts> {
  return unwrap(
    client.POST("/api/blogs/{blog}/sources/{key}/texts", {
      params: { path: { blog, key } },
      body: { again },
    }),
  );
}

/** What rules name as their sources: the first ones, their number, and the keys that name none. */
export const chosenSourcesQuery = (
  blog: string,
  keysOfSources: readonly string[],
  labels: readonly string[],
) =>
  queryOptions({
    queryKey: keys.chosenSources(blog, keysOfSources, labels),
    queryFn: () =>
      unwrap(
        client.POST("/api/blogs/{blog}/chosen-sources", {
          params: { path: { blog } },
          body: { keys: [...keysOfSources], labels: [...labels] },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export type SourceSearch = Schemas["SourceSearch"];

/** The keys of all sources that a search finds. */
export function findSourceKeys(blog: string, body: SourceSearch): Promise<string[]> {
  return unwrap(client.POST("/api/blogs/{blog}/found-sources", { params: { path: { blog } }, body }));
}

/** The address of a blog's sources as OPML, all or the chosen ones. */
export function opmlAddress(blog: string, chosen: readonly string[] = []): string {
  const some = chosen.length ? `?chosen=${encodeURIComponent(chosen.join(","))}` : "";
  return `/api/blogs/${encodeURIComponent(blog)}/opml${some}`;
}

/** The number of sources whose categories are looked up. */
const MOST_ASKED = 100;

export type SeenCategory = Schemas["SeenCategoryOut"];

/** The categories that sources give their items, most frequent first. */
export const seenCategoriesQuery = (
  blog: string,
  sources: readonly string[],
  labels: readonly string[] = [],
) =>
  queryOptions({
    queryKey: keys.seenCategories(blog, sources, labels),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/seen-categories", {
          params: {
            path: { blog },
            query: { sources: sources.slice(0, MOST_ASKED).join(","), labels: labels.join(",") },
          },
        }),
      ),
    staleTime: 60_000,
  });

export type SourceChange = Schemas["ChangeManyIn"]["change"];

/** Pause, resume, label, unlabel or remove several sources. */
export function changeSources(
  blog: string,
  body: Pick<Schemas["ChangeManyIn"], "keys" | "found" | "label"> & { change: SourceChange },
): Promise<Schemas["ChangedOut"]> {
  return unwrap(client.POST("/api/blogs/{blog}/sources-together", { params: { path: { blog } }, body }));
}

export type AccessOfMany = Omit<Schemas["AccessOfManyIn"], "keys" | "found">;

/** Changes how several sources are asked; nothing stands for what each has. */
export function changeAccessOfSources(
  blog: string,
  body: Schemas["AccessOfManyIn"],
): Promise<Schemas["ChangedOut"]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/sources-together/access", { params: { path: { blog } }, body }),
  );
}

export type RightsOfMany = Omit<Schemas["RightsOfManyIn"], "keys" | "found">;

export function changeRightsOfSources(
  blog: string,
  body: Schemas["RightsOfManyIn"],
): Promise<Schemas["ChangedOut"]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/sources-together/rights", { params: { path: { blog } }, body }),
  );
}

export type Access = Schemas["AccessOut"];

export const accessQuery = (blog: string, key: string) =>
  queryOptions({
    queryKey: keys.source(blog, key, "access"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/sources/{key}/access", { params: { path: { blog, key } } })),
  });

export function changeAccess(blog: string, key: string, body: Schemas["AccessIn"]): Promise<Access> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/sources/{key}/access", { params: { path: { blog, key } }, body }),
  );
}

export const sourceFactsQuery = (blog: string, key: string) =>
  queryOptions({
    queryKey: keys.source(blog, key, "facts"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/sources/{key}/facts", { params: { path: { blog, key } } })),
  });

export type Push = Schemas["PushOut"];

export const pushQuery = (blog: string, key: string) =>
  queryOptions({
    queryKey: keys.source(blog, key, "push"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/sources/{key}/push", { params: { path: { blog, key } } })),
  });

export type Walk = Schemas["WalkOut"];
export type Older = Schemas["OlderIn"];

export const olderQuery = (blog: string, key: string) =>
  queryOptions({
    queryKey: keys.source(blog, key, "older"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/sources/{key}/older", { params: { path: { blog, key } } })),
    refetchInterval: (query) =>
      ["waiting", "walking"].includes(query.state.data?.state ?? "") ? 1000 : false,
  });

export function countOlder(blog: string, key: string, body: Older): Promise<Schemas["ExpectedOut"]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/sources/{key}/older/count", { params: { path: { blog, key } }, body }),
  );
}

export function readOlder(blog: string, key: string, body: Older): Promise<Walk> {
  return unwrap(
    client.POST("/api/blogs/{blog}/sources/{key}/older", { params: { path: { blog, key } }, body }),
  );
}

export function stopOlder(blog: string, key: string): Promise<Walk> {
  return unwrap(client.DELETE("/api/blogs/{blog}/sources/{key}/older", { params: { path: { blog, key } } }));
}

export function takePage(blog: string, url: string): Promise<Schemas["TakenPageOut"]> {
  return unwrap(client.POST("/api/blogs/{blog}/taken-pages", { params: { path: { blog } }, body: { url } }));
}

export type AddressPattern = Schemas["AddressPatternOut"];

export const patternsQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.patterns(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/address-patterns", { params: { path: { blog } } })),
  });

export function keepPattern(blog: string, name: string, address: string): Promise<AddressPattern> {
  return unwrap(
    client.POST("/api/blogs/{blog}/address-patterns", {
      params: { path: { blog } },
      body: { name, address },
    }),
  );
}

export async function removePattern(blog: string, number: number): Promise<void> {
  await unwrap(
    client.DELETE("/api/blogs/{blog}/address-patterns/{number}", { params: { path: { blog, number } } }),
  );
}
