import type { CampaignDocument } from "@/api/campaigns";
import type { PillTone } from "@/ui/Pill";

export type Mode = CampaignDocument["release"]["mode"];

/** The release modes in words, with the tones of their marks. */
export const MODE_WORDS: Record<Mode, { words: string; tone: PillTone }> = {
  publish: { words: "Publishes by itself", tone: "verd" },
  hold: { words: "Holds for review", tone: "ochre" },
  draft: { words: "Keeps drafts", tone: "plain" },
  private: { words: "Publishes privately", tone: "plain" },
  scheduled: { words: "Publishes by date", tone: "verd" },
};
