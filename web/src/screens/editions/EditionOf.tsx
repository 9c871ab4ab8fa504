import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { editionsQuery } from "@/api/editions";
import { type Post, postQuery } from "@/api/posts";
import { desk } from "@/lib/blog-path";
import { editionState } from "@/lib/edition-words";
import { languageName } from "@/lib/languages";
import { EditionFaults } from "./EditionFaults";

/** The original of an edition, and the way to both texts beside each other. */
export function EditionOf({ blog, post, original }: { blog: string; post: Post; original: number }) {
  const title = useQuery(postQuery(blog, original)).data?.title;
  const editions = useQuery(editionsQuery(blog, original)).data;
  const edition = editions?.find(({ post: number }) => number === post.id);
  return (
    <section aria-label="Its original" className="mb-4">
      <h2 className="text-base">Edition in {languageName(post.language)}</h2>
      <p className="text-xs text-ink3">
        of{" "}
        <Link className="font-semibold hover:text-verd" to={desk.post(blog, original)}>
          {title ?? "its original"}
        </Link>
        {" · "}
        <Link className="font-semibold text-verd" to={desk.edition(blog, original, post.language)}>
          Beside the original
        </Link>
      </p>
      {edition && (
        <>
          <p className="text-xs text-ink3">{editionState(edition)}</p>
          <EditionFaults faults={edition.faults} />
        </>
      )}
    </section>
  );
}
