import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { keys } from "@/api/keys";
import { sessionQuery } from "@/api/session";
import { type Task, tasksQuery } from "@/api/tasks";

/** The tasks of a blog, asked again after every change, since any change may have begun one. */
export function useTasks(blog: string): readonly Task[] {
  const queries = useQueryClient();
  useEffect(
    () =>
      queries.getMutationCache().subscribe((event) => {
        const changed = event.type === "updated" && event.action.type === "success";
        // Signing out is a change as well, after which nothing is answered.
        const signedIn = Boolean(queries.getQueryData(sessionQuery.queryKey)?.name);
        if (changed && signedIn) queries.invalidateQueries({ queryKey: keys.tasks(blog) });
      }),
    [queries, blog],
  );
  return useQuery(tasksQuery(blog)).data ?? [];
}
