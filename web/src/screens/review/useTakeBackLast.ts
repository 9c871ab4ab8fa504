import { useMutation, useQueryClient } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { changesQuery, takeBackChange } from "@/api/posts";
import { changeWords } from "@/lib/change-words";
import { useTell } from "@/ui/Toasts";

/** Undoes this person's last change, one further with each call. */
export function useTakeBackLast(blog: string, person: string) {
  const queries = useQueryClient();
  const tell = useTell();
  return useMutation({
    mutationFn: async () => {
      const changes = await queries.fetchQuery({ ...changesQuery(blog), staleTime: 0 });
      const last = changes.find(({ by, taken_back, changed }) => by === person && !taken_back && changed > 0);
      if (!last) throw new Error("There is nothing of yours among the last changes to take back.");
      await takeBackChange(blog, last.id);
      return last;
    },
    onSuccess: (change) => {
      queries.invalidateQueries({ queryKey: keys.posts(blog) });
      queries.invalidateQueries({ queryKey: keys.post(blog) });
      tell(`Taken back: ${changeWords(change)}.`);
    },
    onError: (error) => tell(error.message, { tone: "bad" }),
  });
}
