import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { editionTextsQuery } from "@/api/editions";
import type { Post } from "@/api/posts";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { Preview } from "@/components/Preview";
import { BothTexts } from "@/screens/editions/BothTexts";
import { Scroll } from "@/ui/Scroll";
import { Segmented } from "@/ui/Segmented";
import type { ReviewState } from "./useReview";

interface ReviewedTextProps {
  blog: string;
  post: Post;
  preview: ReviewState["preview"];
}

type Way = "beside" | "blog";

/** A held post as the blog shows it. An edition stands beside its original first. */
export function ReviewedText({ blog, post, preview }: ReviewedTextProps) {
  const [way, setWay] = useState<Way>("beside");
  const original = post.edition_of;
  const isBeside = original !== null && way === "beside";
  const texts = useQuery({ ...editionTextsQuery(blog, original ?? 0, post.language), enabled: isBeside });
  return (
    <div className="flex min-h-0 flex-col gap-3 bg-sunk p-4">
      {original !== null && (
        <div className="flex">
          <Segmented
            label="How it is shown"
            value={way}
            options={[
              { value: "beside", label: "Beside its original" },
              { value: "blog", label: "As the blog shows it" },
            ]}
            onChange={setWay}
          />
        </div>
      )}
      {isBeside ? (
        <Scroll label="Both texts" className="sheet-card min-h-0 flex-1 p-2">
          {texts.error && <ErrorNote error={texts.error} onRetry={texts.refetch} />}
          {texts.isPending && <Loading what="both texts" />}
          {texts.data && <BothTexts texts={texts.data} />}
        </Scroll>
      ) : (
        <div className="min-h-0 flex-1">
          {preview.error && <ErrorNote error={preview.error} onRetry={preview.refetch} />}
          {preview.isPending && <Loading what="the post" />}
          {preview.data && <Preview html={preview.data.html} title={post.title} />}
        </div>
      )}
    </div>
  );
}
