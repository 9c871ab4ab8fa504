import { useRef } from "react";
import { useNavigate } from "react-router";
import { keys } from "@/api/keys";
import { beginRun } from "@/api/runs";
import { useToldChange } from "@/components/useToldChange";
import { desk } from "@/lib/blog-path";

/** Begins a run of a campaign, once, and leads to it. */
export function useRunNow(blog: string, slug: string) {
  const navigate = useNavigate();
  // A second click can arrive before the first is rendered.
  const begun = useRef(false);
  const running = useToldChange(() => beginRun(blog, slug), {
    refresh: [keys.runs(blog)],
    onDone: (run) => navigate(desk.run(blog, run.id)),
    onFault: () => {
      begun.current = false;
    },
  });
  return {
    busy: running.isPending,
    run: () => {
      if (begun.current) return;
      begun.current = true;
      running.mutate();
    },
  };
}
