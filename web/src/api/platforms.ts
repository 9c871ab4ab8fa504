import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";
import type { Source } from "./sources";

export type Platform = Schemas["PlatformOut"];
export type Connection = Schemas["ConnectionOut"];
export type AskTest = Schemas["AskTestOut"];
export type WordsLine = Schemas["WordsLine"];
export type WordsCount = Schemas["WordsOut"];

/** What a source asks a platform for. */
export interface Asks {
  connection: string;
  parameters: Record<string, unknown>;
  search_words: WordsLine[];
}

export const platformsQuery = queryOptions({
  queryKey: keys.platforms(),
  queryFn: () => unwrap(client.GET("/api/platforms")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const connectionsQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.connections(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/connections", { params: { path: { blog } } })),
  });

export type LastAsked = NonNullable<Schemas["LastAskedOut"]>;

/** What the newest source of a blog on a platform asks for; nothing where there is none. */
export const lastAskedQuery = (blog: string, platform: string) =>
  queryOptions({
    queryKey: keys.lastAsked(blog, platform),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/last-asked/{platform}", { params: { path: { blog, platform } } })),
    // A draft begins with it, and is not begun anew.
    staleTime: 0,
    refetchOnWindowFocus: false,
  });

export function makeConnection(blog: string, body: Schemas["ConnectionIn"]): Promise<Connection> {
  return unwrap(client.POST("/api/blogs/{blog}/connections", { params: { path: { blog } }, body }));
}

export function saveConnection(
  blog: string,
  key: string,
  body: Schemas["SaveConnectionIn"],
): Promise<Connection> {
  return unwrap(client.PUT("/api/blogs/{blog}/connections/{key}", { params: { path: { blog, key } }, body }));
}

export function checkConnection(blog: string, key: string): Promise<Connection> {
  return unwrap(
    client.POST("/api/blogs/{blog}/connections/{key}/check", { params: { path: { blog, key } } }),
  );
}

export async function removeConnection(blog: string, key: string): Promise<void> {
  await unwrap(client.DELETE("/api/blogs/{blog}/connections/{key}", { params: { path: { blog, key } } }));
}

export function testPlatform(blog: string, platform: string, asks: Asks): Promise<AskTest> {
  const words = asks.search_words.find(({ on, text }) => on && text.trim())?.text ?? "";
  return unwrap(
    client.POST("/api/blogs/{blog}/platform-test", {
      params: { path: { blog } },
      body: { platform, connection: asks.connection, parameters: asks.parameters, words },
    }),
  );
}

/** Empty lines are left out. */
const kept = (asks: Asks): Asks => ({
  ...asks,
  search_words: asks.search_words.filter(({ text }) => text.trim()),
});

export function addPlatformSource(
  blog: string,
  platform: string,
  title: string,
  asks: Asks,
  right: Schemas["Right"] | null,
): Promise<Source> {
  return unwrap(
    client.POST("/api/blogs/{blog}/platform-sources", {
      params: { path: { blog } },
      body: { platform, title, right, ...kept(asks) },
    }),
  );
}

export function changeAsks(blog: string, key: string, asks: Asks, version: number): Promise<Source> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/sources/{key}/asks", {
      params: { path: { blog, key } },
      body: { ...kept(asks), version },
    }),
  );
}

export const wordsQuery = (blog: string, key: string) =>
  queryOptions({
    queryKey: keys.source(blog, key, "words"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/sources/{key}/words", { params: { path: { blog, key } } })),
  });

export function suggestWords(blog: string, key: string): Promise<Schemas["SuggestedOut"][]> {
  return unwrap(
    client.GET("/api/blogs/{blog}/sources/{key}/suggested-words", { params: { path: { blog, key } } }),
  );
}

/** Returns the address where a person signs in at the platform. */
export function beginSignIn(blog: string, key: string): Promise<{ address: string }> {
  return unwrap(
    client.POST("/api/blogs/{blog}/connections/{key}/sign-in", { params: { path: { blog, key } } }),
  );
}

export type Asked = Schemas["AskedOut"];

/** The parameters of a source as YAML, without the connection. */
export function asksYaml(blog: string, key: string): Promise<{ yaml: string }> {
  return unwrap(client.GET("/api/blogs/{blog}/sources/{key}/asks-yaml", { params: { path: { blog, key } } }));
}

export function readAsks(blog: string, yaml: string): Promise<Asked> {
  return unwrap(client.POST("/api/blogs/{blog}/asks-yaml", { params: { path: { blog } }, body: { yaml } }));
}
