import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { previewDraft } from "@/api/posts";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { Preview } from "@/components/Preview";
import { useSettled } from "@/lib/useSettled";
import type { Values } from "./useEditing";

interface DraftPreviewProps {
  blog: string;
  id: number;
  values: Values;
}

/** The preview of unsaved values. */
export function DraftPreview({ blog, id, values }: DraftPreviewProps) {
  const settled = useSettled(JSON.stringify(values));
  const shown = useQuery({
    queryKey: keys.post(blog, id, "draft", settled),
    queryFn: () => previewDraft(blog, id, JSON.parse(settled)),
    placeholderData: keepPreviousData,
    gcTime: 0,
  });
  return (
    <div className="min-h-0 flex-1 bg-sunk p-3">
      {shown.error && <ErrorNote error={shown.error} onRetry={shown.refetch} />}
      {shown.isPending && <Loading what="the post" />}
      {shown.data && <Preview html={shown.data.html} title={values.title} />}
    </div>
  );
}
