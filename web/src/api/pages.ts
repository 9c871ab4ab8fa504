import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type OpenedPage = Schemas["PageOut"];
export type Reader = Schemas["ReaderOut"];
export type ReaderRow = Schemas["ReaderRowOut"];
export type ReaderDocument = Schemas["ReaderDocument"];
export type ListPage = Schemas["ListPage"];
export type DataList = Schemas["DataList"];
export type ArticlePage = Schemas["ArticlePage"];
export type FieldReader = Schemas["FieldReader"];
export type Way = Schemas["Way"];
export type Section = Schemas["Section"];
export type Pointed = Schemas["PointedOut"];
export type Marks = Schemas["MarksOut"];
export type ListTest = Schemas["ListTestOut"];
export type ArticleTest = Schemas["ArticleTestOut"];
export type Mend = Schemas["MendOut"];

type Body = { [name: string]: unknown };

/** A document for the API, which validates it and names each fault. */
const asBody = (document: ReaderDocument): Body => ({ ...document });

export const readersQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.readers(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/readers", { params: { path: { blog } } })),
  });

export const readerQuery = (blog: string, key: string) =>
  queryOptions({
    queryKey: keys.reader(blog, key),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/readers/{key}", { params: { path: { blog, key } } })),
  });

export const pageQuery = (blog: string, number: number) =>
  queryOptions({
    queryKey: keys.page(blog, number),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/pages/{number}", { params: { path: { blog, number } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const listTestQuery = (blog: string, number: number, document: ReaderDocument) =>
  queryOptions({
    queryKey: keys.page(blog, number, "list", document.list_page),
    queryFn: () =>
      unwrap(
        client.POST("/api/blogs/{blog}/pages/{number}/list", {
          params: { path: { blog, number } },
          body: { document: asBody(document), urls: [], rendered: false, hosts: [] },
        }),
      ),
    placeholderData: (before: ListTest | undefined) => before,
    retry: false,
  });

export const marksQuery = (blog: string, number: number, selector: string) =>
  queryOptions({
    queryKey: keys.page(blog, number, "marks", selector),
    queryFn: () =>
      unwrap(
        client.POST("/api/blogs/{blog}/pages/{number}/match", {
          params: { path: { blog, number } },
          body: { selector },
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const keptPagesQuery = (blog: string, key: string) =>
  queryOptions({
    queryKey: keys.reader(blog, key, "pages"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/readers/{key}/pages", { params: { path: { blog, key } } })),
  });

export function keptPage(blog: string, number: number): Promise<OpenedPage> {
  return unwrap(client.GET("/api/blogs/{blog}/pages/{number}", { params: { path: { blog, number } } }));
}

export const mendQuery = (blog: string, key: string) =>
  queryOptions({
    queryKey: keys.reader(blog, key, "mend"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/readers/{key}/mend", { params: { path: { blog, key } } })),
    retry: false,
  });

export function openPage(blog: string, url: string, rendered: boolean): Promise<OpenedPage> {
  return unwrap(
    client.POST("/api/blogs/{blog}/pages", {
      params: { path: { blog } },
      body: { url, rendered, hosts: [] },
    }),
  );
}

export function pointAt(
  blog: string,
  number: number,
  examples: number[],
  without: number[],
  only: boolean,
): Promise<Pointed[]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/pages/{number}/point", {
      params: { path: { blog, number } },
      body: { examples, without, only },
    }),
  );
}

export function testReader(
  blog: string,
  document: ReaderDocument,
  urls: string[],
  rendered: boolean,
): Promise<ArticleTest[]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/reader-test", {
      params: { path: { blog } },
      body: { document: asBody(document), urls, rendered, hosts: [] },
    }),
  );
}

export function makeReader(blog: string, name: string, document: ReaderDocument): Promise<Reader> {
  return unwrap(
    client.POST("/api/blogs/{blog}/readers", {
      params: { path: { blog } },
      body: { name, document: asBody(document) },
    }),
  );
}

export function saveReader(
  blog: string,
  key: string,
  change: { name: string; document: ReaderDocument; mends_itself: boolean; version: number },
): Promise<Reader> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/readers/{key}", {
      params: { path: { blog, key } },
      body: { ...change, document: asBody(change.document) },
    }),
  );
}

export async function removeReader(blog: string, key: string): Promise<void> {
  await unwrap(client.DELETE("/api/blogs/{blog}/readers/{key}", { params: { path: { blog, key } } }));
}

export function takeMend(blog: string, key: string): Promise<Reader> {
  return unwrap(client.POST("/api/blogs/{blog}/readers/{key}/mend", { params: { path: { blog, key } } }));
}

export function readerYaml(blog: string, key: string): Promise<{ yaml: string }> {
  return unwrap(client.GET("/api/blogs/{blog}/readers/{key}/yaml", { params: { path: { blog, key } } }));
}

export function importReader(blog: string, yaml: string): Promise<Reader> {
  return unwrap(client.POST("/api/blogs/{blog}/reader-yaml", { params: { path: { blog } }, body: { yaml } }));
}

export function addPageSource(blog: string, reader: string, title: string, rendered: boolean) {
  return unwrap(
    client.POST("/api/blogs/{blog}/page-sources", {
      params: { path: { blog } },
      body: { reader, title, url: "", rendered },
    }),
  );
}

export function frameAddress(blog: string, number: number): string {
  return `/api/blogs/${blog}/pages/${number}/frame`;
}
