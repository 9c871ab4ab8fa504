import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Reads = Schemas["ReadsOut"];

/** The days that are told of where nobody chooses others. */
export const USUAL_DAYS = 30;

export const readsQuery = (blog: string, days = USUAL_DAYS) =>
  queryOptions({
    queryKey: keys.reads(blog, days),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/reads", { params: { path: { blog }, query: { days } } })),
    placeholderData: keepPreviousData,
  });
