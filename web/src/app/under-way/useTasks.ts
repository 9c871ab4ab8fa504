import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { keys } from "@/api/keys";
import { type Task, tasksQuery } from "@/api/tasks";

/** The tasks of a blog, asked again after every change, since any change may have begun one. */
export function useTasks(blog: string): readonly Task[] {
  const queries = useQueryClient();
  useEffect(
    () =>
      queries.getMutationCache().subscribe((event) => {
        if (event.type === "updated" && event.action.type === "success")
          queries.invalidateQueries({ queryKey: keys.tasks(blog) });
      }),
    [queries, blog],
  );
  return useQuery(tasksQuery(blog)).data ?? [];
}
