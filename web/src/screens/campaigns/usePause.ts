import { useMutation, useQueryClient } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { pauseCampaigns } from "@/api/schedules";
import { plural } from "@/lib/format";
import { useTell } from "@/ui/Toasts";

/** Pauses or resumes campaigns of a blog, and says how many changed. */
export function usePause(blog: string, onDone?: () => void) {
  const queries = useQueryClient();
  const tell = useTell();
  return useMutation({
    mutationFn: (asked: { slugs: string[]; paused: boolean }) => pauseCampaigns(blog, asked),
    onSuccess: ({ changed }, { paused }) => {
      queries.invalidateQueries({ queryKey: keys.campaigns(blog) });
      queries.invalidateQueries({ queryKey: keys.campaign(blog) });
      tell(`${plural(changed, "campaign")} ${paused ? "paused" : "resumed"}.`);
      onDone?.();
    },
    onError: (error) => tell(error.message, { tone: "bad" }),
  });
}
