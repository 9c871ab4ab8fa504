import { useQuery } from "@tanstack/react-query";
import { editionsQuery } from "@/api/editions";
import type { Post } from "@/api/posts";
import { useMay } from "@/api/useRole";
import { ErrorNote } from "@/components/ErrorNote";
import { EditionRow } from "./EditionRow";

/** The languages of the blog with the editions of a post. Nothing where the blog has one language only. */
export function PostEditions({ blog, post }: { blog: string; post: Post }) {
  const editor = useMay()("editor");
  const found = useQuery(editionsQuery(blog, post.id));
  if (found.error) return <ErrorNote error={found.error} onRetry={found.refetch} />;
  if (!found.data?.length) return null;
  return (
    <section aria-labelledby="editions" className="mb-4">
      <h2 id="editions" className="text-base">
        Editions
      </h2>
      <ul>
        {found.data.map((edition) => (
          <EditionRow
            key={edition.language}
            blog={blog}
            post={post}
            edition={edition}
            editor={editor && post.state !== "binned" && post.state !== "gone"}
          />
        ))}
      </ul>
    </section>
  );
}
