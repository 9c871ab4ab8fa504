import { useQuery } from "@tanstack/react-query";
import { TriangleAlert } from "lucide-react";
import { blogQuery } from "@/api/blogs";
import type { CampaignDocument } from "@/api/campaigns";
import type { Stage } from "@/api/proofs";
import { settingWarnings } from "@/lib/setting-warnings";

interface SettingWarningsProps {
  blog: string;
  stage: Stage;
  document: CampaignDocument;
}

/** Contradictions in the settings of a stage, which can be saved nevertheless. */
export function SettingWarnings({ blog, stage, document }: SettingWarningsProps) {
  const lists = useQuery(blogQuery(blog)).data?.word_lists ?? [];
  const found = settingWarnings(stage, document, lists);
  if (!found.length) return null;
  return (
    <ul
      aria-label="Warnings"
      className="space-y-1 rounded-lg border border-ochre/40 bg-ochre-wash px-2.5 py-2 text-ochre"
    >
      {found.map((text) => (
        <li key={text} className="flex items-start gap-1.5">
          <TriangleAlert size={13} aria-hidden="true" className="mt-0.5 shrink-0" /> {text}
        </li>
      ))}
    </ul>
  );
}
