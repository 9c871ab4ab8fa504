import { keys } from "@/api/keys";
import { type Bulk, changePosts, type Selection, takeBackChange } from "@/api/posts";
import { useToldChange } from "@/components/useToldChange";
import { changeState, changeWords } from "@/lib/change-words";
import { useTell } from "@/ui/Toasts";

/** Moves several posts in one request, with undo in the message. */
export function useManyMoves(blog: string) {
  const tell = useTell();
  const refresh = [keys.posts(blog), keys.campaigns(blog)];
  const back = useToldChange((number: number) => takeBackChange(blog, number), { refresh });
  const move = ({ selection, bulk }: { selection: Selection; bulk: Bulk }) =>
    changePosts(blog, selection, bulk);
  return useToldChange(move, {
    refresh,
    onDone: (change) => {
      const note = changeState(change);
      const text = `${changeWords(change)}${note ? `, ${note}` : ""}.`;
      tell(text.charAt(0).toUpperCase() + text.slice(1), { undo: () => back.mutate(change.id) });
    },
  });
}
