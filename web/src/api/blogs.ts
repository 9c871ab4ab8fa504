import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";

export type Blog = Schemas["BlogOut"];
export type BlogSummary = Schemas["BlogSummaryOut"];

export const blogsQuery = queryOptions({
  queryKey: ["blogs"],
  queryFn: () => unwrap(client.GET("/api/blogs")),
  staleTime: 60_000,
});

export const blogQuery = (blog: string) =>
  queryOptions({
    queryKey: ["blog", blog],
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}", { params: { path: { blog } } })),
    staleTime: 60_000,
  });
