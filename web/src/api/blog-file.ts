import { client, type Schemas, unwrap } from "./client";

export type ComparedPart = Schemas["ComparedOut"];
export type Comparison = Schemas["ComparisonOut"];

/** The address of all rules and sources of a blog as one file. */
export function blogFileAddress(blog: string): string {
  return `/api/blogs/${encodeURIComponent(blog)}/blog-file`;
}

/** What a file would change in a blog. Nothing is written. */
export function compareBlogFile(blog: string, yaml: string): Promise<Comparison> {
  return unwrap(
    client.POST("/api/blogs/{blog}/blog-file/comparison", { params: { path: { blog } }, body: { yaml } }),
  );
}

/** Brings the chosen parts of a file in: all of them, or none. */
export function bringInBlogFile(
  blog: string,
  yaml: string,
  chosen: readonly ComparedPart[],
  stamp: string,
): Promise<Schemas["BroughtInOut"]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/blog-file", {
      params: { path: { blog } },
      body: { yaml, stamp, chosen: chosen.map(({ kind, key }) => ({ kind, key })) },
    }),
  );
}
