import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";
import type { Verdict } from "./proofs";

export type Run = Schemas["RunOut"];
export type DecisionRow = Schemas["DecisionRowOut"];

export function isUnderWay(run: Run | undefined | null): boolean {
  return run !== undefined && run !== null && ["waiting", "gathering", "deciding"].includes(run.state);
}

export type RunFilter = "" | "under_way" | "done" | "stopped" | "failed";

export const runsQuery = (blog: string, campaign = "", offset = 0, state: RunFilter = "", search = "") =>
  queryOptions({
    queryKey: keys.runs(blog, campaign, offset, state, search),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/runs", {
          params: { path: { blog }, query: { campaign, offset, state, search } },
        }),
      ),
    placeholderData: keepPreviousData,
    refetchInterval: (query) => (query.state.data?.under_way ? 1000 : 10_000),
  });

export const runQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.run(blog, id),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/runs/{run_id}", { params: { path: { blog, run_id: id } } })),
    refetchInterval: (query) => (isUnderWay(query.state.data) ? 500 : false),
  });

export interface DecisionFilter {
  verdict: Verdict | "";
  search: string;
  offset: number;
}

export const decisionsQuery = (blog: string, run: number, filter: DecisionFilter, live: boolean) =>
  queryOptions({
    queryKey: keys.run(blog, run, "decisions", filter),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/runs/{run_id}/decisions", {
          params: {
            path: { blog, run_id: run },
            query: {
              search: filter.search,
              offset: filter.offset,
              ...(filter.verdict ? { verdict: filter.verdict } : {}),
            },
          },
        }),
      ),
    placeholderData: keepPreviousData,
    refetchInterval: live ? 1000 : false,
  });

export const decisionQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.decision(blog, id),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/decisions/{decision_id}", {
          params: { path: { blog, decision_id: id } },
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
  });

export function beginRun(blog: string, slug: string): Promise<Run> {
  return unwrap(client.POST("/api/blogs/{blog}/campaigns/{slug}/runs", { params: { path: { blog, slug } } }));
}

export function stopRun(blog: string, id: number): Promise<Run> {
  return unwrap(
    client.POST("/api/blogs/{blog}/runs/{run_id}/stop", { params: { path: { blog, run_id: id } } }),
  );
}

export type Outcome = "" | "kept" | "held" | "duplicate" | "refused";

export interface FoundFilter {
  day: string;
  outcome: Outcome;
  search: string;
  /** The slug of a campaign; empty for all. */
  campaign: string;
  offset: number;
}

/** Decisions of all runs of a blog, latest first, up to the server's limit. */
export const foundDecisionsQuery = (blog: string, { day, ...filter }: FoundFilter) =>
  queryOptions({
    queryKey: keys.runs(blog, "decisions", day, filter),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/decisions", {
          params: { path: { blog }, query: { ...filter, ...(day ? { day } : {}) } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const runPostsQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.run(blog, id, "posts"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/runs/{run_id}/take-back", { params: { path: { blog, run_id: id } } }),
      ),
    gcTime: 0,
  });

/** `spare` keeps posts that people have edited or commented. */
export function takeBackRun(blog: string, id: number, spare: boolean): Promise<Run> {
  return unwrap(
    client.POST("/api/blogs/{blog}/runs/{run_id}/take-back", {
      params: { path: { blog, run_id: id } },
      body: { spare },
    }),
  );
}

/** Makes the posts of items that the rules have stopped. */
export function letThrough(
  blog: string,
  slug: string,
  items: readonly number[],
): Promise<Schemas["LetThroughOut"]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/campaigns/{slug}/let-through", {
      params: { path: { blog, slug } },
      body: { items: [...items] },
    }),
  );
}

/** Forgets the decisions of items without a post, so that the next run decides them again. */
export function forgetItems(
  blog: string,
  slug: string,
  items: readonly number[],
): Promise<Schemas["ForgetOut"]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/campaigns/{slug}/memory/forget", {
      params: { path: { blog, slug } },
      body: { items: [...items] },
    }),
  );
}
