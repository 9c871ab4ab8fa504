import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Comment = Schemas["CommentOut"];
export type CommentState = Schemas["CommentState"];

export interface CommentFilter {
  state: CommentState | "";
  search: string;
  offset: number;
}

export const commentsQuery = (blog: string, filter: CommentFilter) =>
  queryOptions({
    queryKey: keys.comments(blog, filter),
    queryFn: () => {
      const { state, ...rest } = filter;
      return unwrap(
        client.GET("/api/blogs/{blog}/comments", {
          params: { path: { blog }, query: { ...rest, ...(state ? { state } : {}) } },
        }),
      );
    },
    placeholderData: keepPreviousData,
  });

/** The number of unread comments, for the badge. */
export const waitingQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.comments(blog, "waiting"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/comments", {
          params: { path: { blog }, query: { limit: 1, state: "waiting" } },
        }),
      ),
    refetchInterval: 30_000,
  });

export function moveComment(blog: string, id: number, state: CommentState): Promise<Comment> {
  return unwrap(
    client.POST("/api/blogs/{blog}/comments/{number}/state", {
      params: { path: { blog, number: id } },
      body: { state },
    }),
  );
}
