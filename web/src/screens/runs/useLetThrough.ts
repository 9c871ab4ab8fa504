import { keys } from "@/api/keys";
import { takeBackChange } from "@/api/posts";
import { forgetItems, letThrough } from "@/api/runs";
import { useToldChange } from "@/components/useToldChange";
import { plural } from "@/lib/format";
import { letThroughWords } from "@/lib/let-through";
import { useTell } from "@/ui/Toasts";

export interface ChosenItems {
  slug: string;
  items: readonly number[];
}

/** Lets items through that the rules have stopped, with undo in the message; or decides them again. */
export function useLetThrough(blog: string, onDone?: () => void) {
  const tell = useTell();
  const refresh = [keys.posts, keys.runs, keys.run, keys.campaigns, keys.proof].map((key) => key(blog));
  const back = useToldChange((change: number) => takeBackChange(blog, change), {
    refresh,
    onDone: () => tell("Taken back. The next run decides these items again."),
  });
  const letting = useToldChange(({ slug, items }: ChosenItems) => letThrough(blog, slug, items), {
    refresh,
    onDone: (told) => {
      const { change } = told;
      tell(letThroughWords(told), {
        tone: told.posts.length ? "good" : "bad",
        ...(change !== null && { undo: () => back.mutate(change) }),
      });
      onDone?.();
    },
  });
  const forgetting = useToldChange(({ slug, items }: ChosenItems) => forgetItems(blog, slug, items), {
    refresh,
    onDone: ({ items }) => {
      tell(`Forgotten: ${plural(items, "item")}. The next run decides them again.`);
      onDone?.();
    },
  });
  return { letting, forgetting };
}
