import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { keys } from "@/api/keys";

/** Refetches the results and posts when a replay has ended. */
export function useFreshAfterReplay(blog: string, slug: string, live: boolean) {
  const queries = useQueryClient();
  const was = useRef(false);
  useEffect(() => {
    if (was.current && !live)
      for (const queryKey of [
        keys.replay(blog, slug),
        keys.posts(blog),
        keys.post(blog),
        keys.campaigns(blog),
      ])
        queries.invalidateQueries({ queryKey });
    was.current = live;
  }, [live, queries, blog, slug]);
}
