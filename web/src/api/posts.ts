import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";
import type { paths } from "./schema";

export type Post = Schemas["PostOut"];
export type PostState = Schemas["PostState"];
export type PostChange = Schemas["PostChangeOut"];
export type Touched = Schemas["TouchedOut"];
export type PostView = Schemas["ViewOut"];
export type PostValues = Schemas["ValuesOut"];
export type HistoryEntry = Schemas["HistoryOut"];
/** The states that a person can move a post to. */
export type Move = Schemas["MoveIn"]["state"];

export type PostSort = NonNullable<
  NonNullable<paths["/api/blogs/{blog}/posts"]["get"]["parameters"]["query"]>["sort"]
>;

/** A filter of posts; an empty part does not narrow it. */
export interface PostFilter {
  state: PostState | "";
  campaign: string;
  source: string;
  category: string;
  tag: string;
  byline: string;
  visibility: Post["visibility"] | "";
  edited: "true" | "false" | "";
  corrected: "true" | "false" | "";
  since: string;
  until: string;
  longest: string;
  language: string;
  /** Editions of other posts: all posts, those alone, or none, where nothing is searched for by word or language. */
  editions: "all" | "only" | "";
  run: string;
  reason: string;
  search: string;
}

export interface PostList extends PostFilter {
  sort: PostSort;
  offset: number;
}

export const EVERY_POST: PostFilter = {
  state: "",
  campaign: "",
  source: "",
  category: "",
  tag: "",
  byline: "",
  visibility: "",
  edited: "",
  corrected: "",
  since: "",
  until: "",
  longest: "",
  language: "",
  editions: "all",
  run: "",
  reason: "",
  search: "",
};

/** Returns a filter for the server, without empty parts. */
export function filterOf(filter: PostFilter): Schemas["FilterIn"] {
  const kept = Object.entries(filter).filter(([name, value]) => value !== "" && name in EVERY_POST);
  const given: Record<string, unknown> = Object.fromEntries(kept);
  if (filter.edited) given.edited = filter.edited === "true";
  if (filter.corrected) given.corrected = filter.corrected === "true";
  delete given.editions;
  if (filter.editions === "only") given.editions = true;
  else if (!filter.editions && !filter.language && !filter.search && !filter.run) given.editions = false;
  for (const name of ["longest", "run"] as const) if (filter[name]) given[name] = Number(filter[name]);
  return given as Schemas["FilterIn"];
}

export const postsQuery = (blog: string, { sort, offset, ...filter }: PostList) =>
  queryOptions({
    queryKey: keys.posts(blog, filter, sort, offset),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts", {
          params: { path: { blog }, query: { ...filterOf(filter), sort, offset } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

/** The number of held posts, for the badge. */
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

export type Correction = Schemas["CorrectionOut"];

/** What the source of a published post has corrected; null where there is nothing. */
export const correctionQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.post(blog, id, "correction"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts/{post_id}/correction", {
          params: { path: { blog, post_id: id } },
        }),
      ),
  });

export function settleCorrection(blog: string, id: number, take: boolean): Promise<unknown> {
  return unwrap(
    client.POST("/api/blogs/{blog}/posts/{post_id}/correction", {
      params: { path: { blog, post_id: id } },
      body: { take },
    }),
  );
}

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

interface MoveOptions {
  /** The state that the person knows; a post moved meanwhile stays. */
  seen?: PostState;
  /** When a scheduled post goes out (ISO 8601). */
  date?: string;
  why?: string;
}

export function movePost(blog: string, id: number, state: Move, options: MoveOptions = {}): Promise<Post> {
  const { seen, date, why } = options;
  return unwrap(
    client.POST("/api/blogs/{blog}/posts/{post_id}/state", {
      params: { path: { blog, post_id: id } },
      body: { state, seen: seen ?? null, ...(date ? { date } : {}), why: why ?? "" },
    }),
  );
}

/** A change of many posts: an action with its values. */
export type Bulk = Pick<Schemas["PostChangeIn"], "action"> &
  Partial<Omit<Schemas["PostChangeIn"], "action" | "ids" | "filter">>;

/** Posts by number, or all that a filter finds. */
export type Selection = { ids: number[] } | { filter: PostFilter };

export function selectionOf(selection: Selection) {
  return "ids" in selection ? { ids: selection.ids } : { filter: filterOf(selection.filter) };
}

export function changePosts(blog: string, selection: Selection, bulk: Bulk): Promise<PostChange> {
  const body = { ...bulk, ...selectionOf(selection) } as Schemas["PostChangeIn"];
  return unwrap(client.POST("/api/blogs/{blog}/post-changes", { params: { path: { blog } }, body }));
}

export function countPosts(blog: string, selection: Selection): Promise<Touched> {
  return unwrap(
    client.POST("/api/blogs/{blog}/post-changes/count", {
      params: { path: { blog } },
      body: selectionOf(selection),
    }),
  );
}

const WATCHED = 700;
/** Whether a change is over, however it ended. */
export function isOver(change: PostChange | undefined): boolean {
  return change !== undefined && change.state !== "waiting" && change.state !== "running";
}

export const changesQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.posts(blog, "changes"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/post-changes", { params: { path: { blog }, query: { limit: 20 } } }),
      ),
    refetchInterval: ({ state }) => (state.data?.some((change) => !isOver(change)) ? WATCHED : false),
  });

export const changeQuery = (blog: string, number: number) =>
  queryOptions({
    queryKey: keys.posts(blog, "change", number),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/post-changes/{number}", { params: { path: { blog, number } } })),
    refetchInterval: ({ state }) => (isOver(state.data) ? false : WATCHED),
  });

export function stopChange(blog: string, number: number): Promise<PostChange> {
  return unwrap(
    client.POST("/api/blogs/{blog}/post-changes/{number}/stop", { params: { path: { blog, number } } }),
  );
}

export function takeBackChange(blog: string, number: number): Promise<PostChange> {
  return unwrap(
    client.POST("/api/blogs/{blog}/post-changes/{number}/take-back", { params: { path: { blog, number } } }),
  );
}

export async function emptyBin(blog: string): Promise<void> {
  await unwrap(client.DELETE("/api/blogs/{blog}/bin", { params: { path: { blog } } }));
}

export const viewsQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.posts(blog, "views"),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/post-views", { params: { path: { blog } } })),
  });

export function keepView(blog: string, name: string, query: string): Promise<PostView> {
  return unwrap(
    client.POST("/api/blogs/{blog}/post-views", { params: { path: { blog } }, body: { name, query } }),
  );
}

export async function removeView(blog: string, number: number): Promise<void> {
  await unwrap(
    client.DELETE("/api/blogs/{blog}/post-views/{number}", { params: { path: { blog, number } } }),
  );
}

export const postValuesQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.post(blog, id, "values"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts/{post_id}/values", { params: { path: { blog, post_id: id } } }),
      ),
  });

export const historyQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.post(blog, id, "history"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts/{post_id}/history", { params: { path: { blog, post_id: id } } }),
      ),
  });

export const versionQuery = (blog: string, id: number, version: number) =>
  queryOptions({
    queryKey: keys.post(blog, id, "version", version),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts/{post_id}/versions/{version}", {
          params: { path: { blog, post_id: id, version } },
        }),
      ),
  });

export type Edit = Partial<Omit<PostValues, "version" | "edited">>;

export function editPost(blog: string, id: number, version: number, values: Edit): Promise<Post> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/posts/{post_id}", {
      params: { path: { blog, post_id: id } },
      body: { version, ...values },
    }),
  );
}

export function writePost(blog: string, values: Edit): Promise<Post> {
  return unwrap(client.POST("/api/blogs/{blog}/posts", { params: { path: { blog } }, body: values }));
}

export function restoreVersion(blog: string, id: number, version: number, seen: number): Promise<Post> {
  return unwrap(
    client.POST("/api/blogs/{blog}/posts/{post_id}/versions/{version}/restore", {
      params: { path: { blog, post_id: id, version } },
      body: { seen },
    }),
  );
}

export function previewDraft(
  blog: string,
  id: number,
  values: Omit<PostValues, "version" | "edited">,
): Promise<Schemas["PreviewOut"]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/post-preview", {
      params: { path: { blog } },
      body: { ...values, post: id || null },
    }),
  );
}

export type Lacking = Schemas["LackingOut"];

/** How a post is found and shared, and what it lacks for that. */
export const findableQuery = (blog: string, id: number) =>
  queryOptions({
    queryKey: keys.post(blog, id, "findable"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts/{post_id}/findable", {
          params: { path: { blog, post_id: id } },
        }),
      ),
  });
