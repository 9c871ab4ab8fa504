import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Today = Schemas["TodayOut"];
export type Need = Schemas["NeedOut"];
export type Line = Schemas["LineOut"];
export type Day = Schemas["DayOut"];

/** Milliseconds between two polls. */
const EVERY_MINUTE = 60_000;

export const todayQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.today(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/today", { params: { path: { blog } } })),
    refetchInterval: EVERY_MINUTE,
  });
