import { useQueryClient } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { changesQuery, takeBackChange } from "@/api/posts";
import { useToldChange } from "@/components/useToldChange";
import { changeWords } from "@/lib/change-words";
import { useTell } from "@/ui/Toasts";

/** Undoes this person's last change, one further with each call. */
export function useTakeBackLast(blog: string, person: string) {
  const queries = useQueryClient();
  const tell = useTell();
  return useToldChange(
    async () => {
      const changes = await queries.fetchQuery({ ...changesQuery(blog), staleTime: 0 });
      const last = changes.find(({ by, taken_back, changed }) => by === person && !taken_back && changed > 0);
      if (!last) throw new Error("There is nothing of yours among the last changes to take back.");
      await takeBackChange(blog, last.id);
      return last;
    },
    {
      refresh: [keys.posts(blog), keys.post(blog)],
      onDone: (change) => tell(`Taken back: ${changeWords(change)}.`),
    },
  );
}
