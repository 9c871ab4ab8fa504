import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type KeepingState = Schemas["KeepingOut"];
/** The days for which each kind of record is kept; nothing for the usual number. */
export type Keeping = Schemas["Keeping"];
export type KeptRecord = Schemas["KeptOut"];
export type Freed = Schemas["FreedOut"];

export const keepingQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.keeping(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/keeping", { params: { path: { blog } } })),
  });

export function saveKeeping(blog: string, keeping: Keeping, begun: number): Promise<KeepingState> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/keeping", { params: { path: { blog } }, body: { keeping, begun } }),
  );
}

/** What keeping records for so many days would free. Nothing is removed. */
export const freedQuery = (blog: string, keeping: Keeping) =>
  queryOptions({
    queryKey: keys.keeping(blog, keeping),
    queryFn: () =>
      unwrap(
        client.POST("/api/blogs/{blog}/keeping/freed", { params: { path: { blog } }, body: { keeping } }),
      ),
    placeholderData: keepPreviousData,
  });
