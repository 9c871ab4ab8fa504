import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Post = Schemas["PostOut"];
export type PostState = Schemas["PostState"];

export interface PostFilter {
  state: PostState | "";
  campaign: string;
  source: string;
  search: string;
  sort: "newest" | "oldest" | "title";
  offset: number;
}

export const postsQuery = (blog: string, filter: PostFilter) =>
  queryOptions({
    queryKey: keys.posts(blog, filter),
    queryFn: () => {
      const { state, ...rest } = filter;
      return unwrap(
        client.GET("/api/blogs/{blog}/posts", {
          params: { path: { blog }, query: { ...rest, ...(state ? { state } : {}) } },
        }),
      );
    },
    placeholderData: keepPreviousData,
  });

/** How many posts wait, for the badge in the top bar. */
export const heldQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.posts(blog, "held"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts", {
          params: { path: { blog }, query: { limit: 1, state: "held" } },
        }),
      ),
    refetchInterval: 15_000,
  });

export const postQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.post(blog, id),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/posts/{post_id}", { params: { path: { blog, post_id: id } } })),
  });

export const postDecisionQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.post(blog, id, "decision"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts/{post_id}/decision", { params: { path: { blog, post_id: id } } }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const postPreviewQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.post(blog, id, "preview"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts/{post_id}/preview", { params: { path: { blog, post_id: id } } }),
      ),
  });

/** `seen` is the state that the person knows the post in: one that has moved meanwhile is not moved again. */
export function movePost(blog: string, id: number, state: PostState, seen?: PostState): Promise<Post> {
  return unwrap(
    client.POST("/api/blogs/{blog}/posts/{post_id}/state", {
      params: { path: { blog, post_id: id } },
      body: { state, seen: seen ?? null },
    }),
  );
}
