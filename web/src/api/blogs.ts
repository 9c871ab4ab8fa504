import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Blog = Schemas["BlogOut"];
export type Appearance = Schemas["Look"];
export type Part = NonNullable<Appearance["parts"]>[number];
export type Which = Schemas["Which"];
export type WayIn = Schemas["WayIn"];
export type WordListRow = Schemas["WordListOut"];
export type TermTableRow = Schemas["TermTableOut"];
export type BlogSummary = Schemas["BlogSummaryOut"];

export const blogsQuery = queryOptions({
  queryKey: keys.blogs(),
  queryFn: () => unwrap(client.GET("/api/blogs")),
  staleTime: 60_000,
});

export const blogQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.blog(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}", { params: { path: { blog } } })),
    staleTime: 60_000,
  });

type WordListBody = Schemas["WordListIn"];

export function addWordList(blog: string, body: WordListBody): Promise<WordListRow> {
  return unwrap(client.POST("/api/blogs/{blog}/word-lists", { params: { path: { blog } }, body }));
}

export function changeWordList(blog: string, key: string, body: WordListBody): Promise<WordListRow> {
  return unwrap(client.PUT("/api/blogs/{blog}/word-lists/{key}", { params: { path: { blog, key } }, body }));
}

export async function removeWordList(blog: string, key: string): Promise<void> {
  await unwrap(
    client.DELETE("/api/blogs/{blog}/unused-word-lists/{key}", { params: { path: { blog, key } } }),
  );
}

/** Its text has a line for each term, as CSV: what, by, link. */
type TermTableBody = Schemas["TermTableIn"];

export function addTermTable(blog: string, body: TermTableBody): Promise<TermTableRow> {
  return unwrap(client.POST("/api/blogs/{blog}/term-tables", { params: { path: { blog } }, body }));
}

export function changeTermTable(blog: string, key: string, body: TermTableBody): Promise<TermTableRow> {
  return unwrap(client.PUT("/api/blogs/{blog}/term-tables/{key}", { params: { path: { blog, key } }, body }));
}

export async function removeTermTable(blog: string, key: string): Promise<void> {
  await unwrap(
    client.DELETE("/api/blogs/{blog}/unused-term-tables/{key}", { params: { path: { blog, key } } }),
  );
}

export function makeBlog(body: Schemas["MakeBlogIn"]): Promise<BlogSummary> {
  return unwrap(client.POST("/api/blogs", { body }));
}

export function changeAppearance(blog: string, body: Schemas["AppearanceIn"]): Promise<Blog> {
  return unwrap(client.PUT("/api/blogs/{blog}/appearance", { params: { path: { blog } }, body }));
}

/** The front of a blog in a look that is not saved, as HTML. */
export function previewAppearance(blog: string, body: Schemas["LookIn"]): Promise<Schemas["PreviewOut"]> {
  return unwrap(client.POST("/api/blogs/{blog}/appearance/preview", { params: { path: { blog } }, body }));
}

export function changeBlog(blog: string, body: Schemas["ChangeBlogIn"]): Promise<Blog> {
  return unwrap(client.PATCH("/api/blogs/{blog}", { params: { path: { blog } }, body }));
}

export async function removeBlog(blog: string): Promise<void> {
  await unwrap(client.DELETE("/api/blogs/{blog}", { params: { path: { blog } } }));
}

export const removedBlogsQuery = queryOptions({
  queryKey: keys.blogs("removed"),
  queryFn: () => unwrap(client.GET("/api/removed-blogs")),
});

export function bringBackBlog(slug: string): Promise<BlogSummary> {
  return unwrap(client.DELETE("/api/removed-blogs/{slug}", { params: { path: { slug } } }));
}

export type AuditEntry = Schemas["AuditEntryOut"];

export const auditQuery = (blog: string, kind: string, search: string, offset: number, limit: number) =>
  queryOptions({
    queryKey: keys.audit(blog, kind, search, offset, limit),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/audit", {
          params: { path: { blog }, query: { kind, search, offset, limit } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

/** The parts that are ready for each kind of front. */
export const readyFrontsQuery = queryOptions({
  queryKey: keys.readyFronts(),
  queryFn: () => unwrap(client.GET("/api/ready-fronts")),
  staleTime: Number.POSITIVE_INFINITY,
});
