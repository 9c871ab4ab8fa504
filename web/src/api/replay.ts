import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Replay = Schemas["ReplayOut"];
export type ReplayResult = Schemas["ReplayResultOut"];
export type Outcome = Schemas["Outcome"];
export type Applied = Schemas["ApplyIn"]["outcomes"][number];

const WATCHED = 700;

export function isUnderWay(replay: Replay | null | undefined): boolean {
  return Boolean(replay && ["waiting", "deciding", "applying"].includes(replay.state));
}

export const lastReplayQuery = (blog: string, slug: string) =>
  queryOptions({
    queryKey: keys.replay(blog, slug),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/campaigns/{slug}/replays/last", { params: { path: { blog, slug } } }),
      ),
    refetchInterval: ({ state }) => (isUnderWay(state.data) ? WATCHED : false),
  });

export function beginReplay(blog: string, slug: string, revision: number | null): Promise<Replay> {
  return unwrap(
    client.POST("/api/blogs/{blog}/campaigns/{slug}/replays", {
      params: { path: { blog, slug } },
      body: { revision },
    }),
  );
}

export function stopReplay(blog: string, number: number): Promise<Replay> {
  return unwrap(
    client.POST("/api/blogs/{blog}/replays/{number}/stop", { params: { path: { blog, number } } }),
  );
}

export const replayResultsQuery = (
  blog: string,
  slug: string,
  number: number,
  filter: { outcome: Outcome; search: string; offset: number },
  live: boolean,
) =>
  queryOptions({
    queryKey: keys.replay(blog, slug, number, filter),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/replays/{number}/results", {
          params: { path: { blog, number }, query: filter },
        }),
      ),
    placeholderData: keepPreviousData,
    refetchInterval: live ? WATCHED : false,
  });

export const replayValuesQuery = (blog: string, slug: string, number: number, result: number) =>
  queryOptions({
    queryKey: keys.replay(blog, slug, number, "values", result),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/replays/{number}/results/{result}", {
          params: { path: { blog, number, result } },
        }),
      ),
  });

export function applyReplay(
  blog: string,
  number: number,
  chosen: { outcomes: Applied[]; results: number[] },
): Promise<Replay> {
  return unwrap(
    client.POST("/api/blogs/{blog}/replays/{number}/apply", {
      params: { path: { blog, number } },
      body: chosen,
    }),
  );
}
