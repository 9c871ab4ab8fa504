import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { keys } from "@/api/keys";
import {
  type Bulk,
  changePosts,
  changeQuery,
  isOver,
  type Selection,
  stopChange,
  takeBackChange,
} from "@/api/posts";
import { useToldChange } from "@/components/useToldChange";
import { changeState, changeWords } from "@/lib/change-words";
import { useTell } from "@/ui/Toasts";

/** Changes of many posts, watched until they end, with undo in the message. */
export function useBulk(blog: string, onDone: () => void) {
  const queries = useQueryClient();
  const tell = useTell();
  const [number, setNumber] = useState<number | null>(null);
  const watched = useQuery({ ...changeQuery(blog, number ?? 0), enabled: number !== null });
  const change = number === null ? undefined : watched.data;
  const over = isOver(change);
  const watch = { onDone: (made: { id: number }) => setNumber(made.id) };
  const back = useToldChange((taken: number) => takeBackChange(blog, taken), watch);
  const begin = useToldChange(
    ({ selection, bulk }: { selection: Selection; bulk: Bulk }) => changePosts(blog, selection, bulk),
    watch,
  );
  const stop = useToldChange(() => stopChange(blog, number ?? 0));

  // biome-ignore lint/correctness/useExhaustiveDependencies: it is told once, when the change has ended
  useEffect(() => {
    if (!over || !change) return;
    setNumber(null);
    for (const queryKey of [keys.posts(blog), keys.campaigns(blog), keys.post(blog), keys.runs(blog)])
      queries.invalidateQueries({ queryKey });
    const note = changeState(change);
    const text = `${changeWords(change)}${note ? `, ${note}` : ""}.`;
    tell(text.charAt(0).toUpperCase() + text.slice(1), {
      ...(change.action !== "taken_back" && change.changed > 0 ? { undo: () => back.mutate(change.id) } : {}),
    });
    onDone();
  }, [over, change?.id]);

  return {
    change: over ? undefined : change,
    busy: number !== null || begin.isPending || back.isPending,
    begin: (selection: Selection, bulk: Bulk) => begin.mutate({ selection, bulk }),
    takeBack: (taken: number) => back.mutate(taken),
    stop: () => stop.mutate(),
  };
}

export type BulkState = ReturnType<typeof useBulk>;
