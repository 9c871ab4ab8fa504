import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Alike = Schemas["AlikeOut"];

export const alikeQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.post(blog, id, "alike"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts/{post_id}/alike", { params: { path: { blog, post_id: id } } }),
      ),
  });

export type SameEvent = Schemas["SameEventOut"];

export const sameEventQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.post(blog, id, "same-event"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts/{post_id}/same-event", {
          params: { path: { blog, post_id: id } },
        }),
      ),
  });

export const heldReasonsQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.posts(blog, "held-reasons"),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/held-reasons", { params: { path: { blog } } })),
  });
