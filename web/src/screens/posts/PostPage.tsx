import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { postDecisionQuery, postPreviewQuery, postQuery } from "@/api/posts";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { Preview } from "@/components/Preview";
import { StateMark } from "@/components/StateMark";
import { Trace } from "@/components/Trace";
import { desk } from "@/lib/blog-path";
import { moment } from "@/lib/format";
import { PostActions } from "./PostActions";
import { usePostMoves } from "./usePostMoves";

/** One post as the blog shows it, beside the trace of how it came to be. */
export default function PostPage() {
  const { blog = "", id = "" } = useParams();
  const number = Number(id);
  const post = useQuery(postQuery(blog, number));
  const preview = useQuery(postPreviewQuery(blog, number));
  const decision = useQuery(postDecisionQuery(blog, number));
  const moving = usePostMoves(blog);
  if (post.error) return <ErrorNote error={post.error} onRetry={post.refetch} />;
  if (!post.data) return <Loading what="the post" />;
  const { data } = post;
  return (
    <>
      <Head title={data.title} facts={<StateMark state={data.state} />}>
        <PostActions blog={blog} post={data} moving={moving} />
      </Head>
      <div className="grid min-h-0 flex-1 grid-rows-[minmax(0,1fr)] grid-cols-[minmax(0,1fr)_404px]">
        <div className="min-h-0 bg-sunk p-4">
          {preview.error && <ErrorNote error={preview.error} onRetry={preview.refetch} />}
          {preview.data && <Preview html={preview.data.html} title={data.title} />}
        </div>
        <aside
          aria-label="Why it is here"
          className="min-h-0 overflow-auto border-l border-line bg-sheet p-4"
        >
          <h2 className="text-base">Why it is here</h2>
          <p className="text-xs text-ink3">
            <Link className="hover:text-verd" to={desk.bench(blog, data.campaign_slug)}>
              {data.campaign}
            </Link>
            , revision {data.revision} · {data.source}
            {decision.data?.run && (
              <>
                {" · "}
                <Link className="hover:text-verd" to={desk.run(blog, decision.data.run)}>
                  run of {moment(data.created_at)}
                </Link>
              </>
            )}
          </p>
          {data.link && (
            <a
              className="inline-flex min-h-6 items-center text-xs font-semibold text-verd"
              href={data.link}
              target="_blank"
              rel="noreferrer"
            >
              Open the original
            </a>
          )}
          {decision.error && <ErrorNote error={decision.error} onRetry={decision.refetch} />}
          {decision.isPending && <Loading what="the trace" />}
          {decision.data && <Trace blog={blog} decision={decision.data} />}
        </aside>
      </div>
    </>
  );
}
