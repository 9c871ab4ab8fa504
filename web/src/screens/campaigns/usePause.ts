import { keys } from "@/api/keys";
import { pauseCampaigns } from "@/api/schedules";
import { useToldChange } from "@/components/useToldChange";
import { plural } from "@/lib/format";
import { useTell } from "@/ui/Toasts";

/** Pauses or resumes campaigns of a blog, and says how many changed. */
export function usePause(blog: string, onDone?: () => void) {
  const tell = useTell();
  return useToldChange((asked: { slugs: string[]; paused: boolean }) => pauseCampaigns(blog, asked), {
    refresh: [keys.campaigns(blog), keys.campaign(blog)],
    onDone: ({ changed }, { paused }) => {
      tell(`${plural(changed, "campaign")} ${paused ? "paused" : "resumed"}.`);
      onDone?.();
    },
  });
}
