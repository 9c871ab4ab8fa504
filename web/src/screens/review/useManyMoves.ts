import { useMutation, useQueryClient } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { type Bulk, changePosts, type Selection, takeBackChange } from "@/api/posts";
import { changeState, changeWords } from "@/lib/change-words";
import { useTell } from "@/ui/Toasts";

/** Moves several posts in one request, with undo in the message. */
export function useManyMoves(blog: string) {
  const queries = useQueryClient();
  const tell = useTell();
  const refresh = () => {
    queries.invalidateQueries({ queryKey: keys.posts(blog) });
    queries.invalidateQueries({ queryKey: keys.campaigns(blog) });
  };
  const back = useMutation({
    mutationFn: (number: number) => takeBackChange(blog, number),
    onSuccess: refresh,
    onError: (error) => tell(error.message, { tone: "bad" }),
  });
  return useMutation({
    mutationFn: ({ selection, bulk }: { selection: Selection; bulk: Bulk }) =>
      changePosts(blog, selection, bulk),
    onSuccess: (change) => {
      refresh();
      const note = changeState(change);
      const text = `${changeWords(change)}${note ? `, ${note}` : ""}.`;
      tell(text.charAt(0).toUpperCase() + text.slice(1), { undo: () => back.mutate(change.id) });
    },
    onError: (error) => tell(error.message, { tone: "bad" }),
  });
}
