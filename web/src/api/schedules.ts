import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import type { Campaign } from "./campaigns";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Schedule = Schemas["Schedule"];
export type When = Schedule["when"];

/** The next five times of a schedule that is being edited. */
export const timesQuery = (blog: string, schedule: Schedule, timeZone: string) =>
  queryOptions({
    queryKey: keys.scheduleTimes(blog, schedule, timeZone),
    queryFn: () =>
      unwrap(
        client.POST("/api/blogs/{blog}/schedule-times", {
          params: { path: { blog } },
          body: { schedule, time_zone: timeZone },
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });

export const timeZonesQuery = queryOptions({
  queryKey: keys.timeZones(),
  queryFn: () => unwrap(client.GET("/api/time-zones")),
  staleTime: Number.POSITIVE_INFINITY,
});

export function setSchedule(
  blog: string,
  slug: string,
  body: { schedule: Schedule; paused: boolean; version: number },
): Promise<Campaign> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/campaigns/{slug}/schedule", { params: { path: { blog, slug } }, body }),
  );
}

/** Pauses or resumes campaigns, all of the blog where none is named. */
export function pauseCampaigns(
  blog: string,
  body: { slugs: string[]; paused: boolean },
): Promise<{ changed: number }> {
  return unwrap(client.POST("/api/blogs/{blog}/pause", { params: { path: { blog } }, body }));
}

export function setTimeZone(blog: string, time_zone: string): Promise<unknown> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/time-zone", { params: { path: { blog } }, body: { time_zone } }),
  );
}
