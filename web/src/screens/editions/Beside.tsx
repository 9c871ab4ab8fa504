import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { editionTextsQuery } from "@/api/editions";
import { postQuery } from "@/api/posts";
import { useMay } from "@/api/useRole";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { StateMark } from "@/components/StateMark";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";
import { PostActions } from "@/screens/posts/PostActions";
import { usePostMoves } from "@/screens/posts/usePostMoves";
import { buttonLook } from "@/ui/Button";
import { Scroll } from "@/ui/Scroll";
import { BothTexts } from "./BothTexts";

/** An edition beside its original, block by block. */
export default function Beside() {
  const { blog = "", id = "", language = "" } = useParams();
  const original = Number(id);
  const found = useQuery(editionTextsQuery(blog, original, language));
  const number = found.data?.post ?? null;
  const edition = useQuery({ ...postQuery(blog, number ?? 0), enabled: number !== null }).data;
  const moving = usePostMoves(blog);
  const editor = useMay()("editor");
  const texts = found.data;
  return (
    <>
      <Head
        title={edition?.title ?? "An edition"}
        facts={
          edition ? <StateMark state={edition.state} /> : <span className="text-ink3">not made yet</span>
        }
      >
        {edition && editor && (
          <Link className={buttonLook("plain", true)} to={desk.editPost(blog, edition.id)}>
            Edit
          </Link>
        )}
        {edition && <PostActions blog={blog} post={edition} moving={moving} />}
      </Head>
      <Scroll label="Both texts" className="min-h-0 flex-1 p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {found.isPending && <Loading what="both texts" rows={6} />}
        {texts && (
          <>
            <p className="mb-3 text-ink2">
              <Link className="font-semibold text-verd" to={desk.post(blog, original)}>
                To the original
              </Link>
              {" · "}
              {texts.behind
                ? `${plural(texts.behind, "block", "blocks")} of the original changed since this edition was made`
                : "the original has not changed since"}
              . Names, numbers and terms that both must have are marked.
            </p>
            <BothTexts texts={texts} />
          </>
        )}
      </Scroll>
    </>
  );
}
