import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type FeedList = Schemas["FeedListOut"];
export type FeedListDetail = Schemas["FeedListDetailOut"];
export type ListEntry = Schemas["ListEntryOut"];
export type ListOutcome = Schemas["EntryOutcome"];
export type ListPreview = Schemas["ListPreviewOut"];
/** The content of an OPML file in Base64, or addresses. */
export type GivenList = { content: string } | { addresses: string[] };

const SOON = 2_000;

/** What a list would bring. Nothing is saved. */
export function previewFeeds(blog: string, given: GivenList): Promise<ListPreview> {
  return unwrap(
    client.POST("/api/blogs/{blog}/feed-list-preview", {
      params: { path: { blog } },
      body: { content: "", addresses: [], ...given },
    }),
  );
}

/** Makes all feeds of a list sources. */
export function bringInFeeds(
  blog: string,
  given: GivenList,
  name: string,
  labels: string[],
  right: Schemas["Right"] | null,
): Promise<FeedList> {
  return unwrap(
    client.POST("/api/blogs/{blog}/feed-lists", {
      params: { path: { blog } },
      body: { content: "", addresses: [], ...given, name, labels, right },
    }),
  );
}

export const feedListsQuery = (blog: string, offset: number, limit: number) =>
  queryOptions({
    queryKey: keys.feedLists(blog, offset, limit),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/feed-lists", { params: { path: { blog }, query: { offset, limit } } }),
      ),
    placeholderData: keepPreviousData,
  });

/** A list with one page of its entries, polled while they are being read. */
export const feedListQuery = (
  blog: string,
  number: number,
  outcome: ListOutcome | null,
  search: string,
  offset: number,
  limit: number,
) =>
  queryOptions({
    queryKey: keys.feedList(blog, number, outcome, search, offset, limit),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/feed-lists/{number}", {
          params: { path: { blog, number }, query: { outcome, search, offset, limit } },
        }),
      ),
    placeholderData: keepPreviousData,
    refetchInterval: (query) => (query.state.data?.feed_list.under_way ? SOON : false),
  });

export function readListAgain(blog: string, number: number): Promise<FeedList> {
  return unwrap(
    client.POST("/api/blogs/{blog}/feed-lists/{number}/again", { params: { path: { blog, number } } }),
  );
}
