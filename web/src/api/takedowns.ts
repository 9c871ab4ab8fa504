import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Takedown = Schemas["TakedownOut"];
export type TakedownAsk = Schemas["TakedownIn"];

export const takedownsQuery = (blog: string, offset: number, limit: number) =>
  queryOptions({
    queryKey: keys.takedowns(blog, offset, limit),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/takedowns", { params: { path: { blog }, query: { offset, limit } } }),
      ),
    placeholderData: keepPreviousData,
  });

export function takeDownPost(blog: string, id: number, body: TakedownAsk): Promise<Takedown> {
  return unwrap(
    client.POST("/api/blogs/{blog}/posts/{post_id}/takedown", {
      params: { path: { blog, post_id: id } },
      body,
    }),
  );
}

export function takeDownSource(blog: string, key: string, body: TakedownAsk): Promise<Takedown> {
  return unwrap(
    client.POST("/api/blogs/{blog}/sources/{key}/takedown", { params: { path: { blog, key } }, body }),
  );
}

export function liftTakedown(blog: string, number: number): Promise<Takedown> {
  return unwrap(
    client.POST("/api/blogs/{blog}/takedowns/{number}/lift", { params: { path: { blog, number } } }),
  );
}
