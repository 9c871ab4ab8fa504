import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Task = Schemas["TaskOut"];

const SOON = 2_000;
const LATER = 10_000;

export function isEnded(task: Task): boolean {
  return task.ended_at !== null;
}

/** What goes on in a blog, and what ended in the last hour. */
export const tasksQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.tasks(blog),
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/blogs/{blog}/tasks", { params: { path: { blog } }, signal })),
    refetchInterval: (query) => (query.state.data?.some((task) => !isEnded(task)) ? SOON : LATER),
  });

export function stopTask(blog: string, number: number): Promise<Task> {
  return unwrap(client.POST("/api/blogs/{blog}/tasks/{number}/stop", { params: { path: { blog, number } } }));
}
