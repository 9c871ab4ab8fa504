import { useQuery } from "@tanstack/react-query";
import { EllipsisVertical } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { postDecisionQuery, postPreviewQuery, postQuery } from "@/api/posts";
import { takeDownPost } from "@/api/takedowns";
import { useMay } from "@/api/useRole";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { Preview } from "@/components/Preview";
import { StateMark } from "@/components/StateMark";
import { Trace } from "@/components/Trace";
import { desk } from "@/lib/blog-path";
import { moment } from "@/lib/format";
import { EditionOf } from "@/screens/editions/EditionOf";
import { PostEditions } from "@/screens/editions/PostEditions";
import { ScheduleDialog } from "@/screens/review/ScheduleDialog";
import { TakedownDialog } from "@/screens/takedowns/TakedownDialog";
import { buttonLook } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { CorrectionNote } from "./CorrectionNote";
import { PostActions } from "./PostActions";
import { PostFindable } from "./PostFindable";
import { usePostMoves } from "./usePostMoves";

/** One post as the blog shows it, beside its trace. */
export default function PostPage() {
  const { blog = "", id = "" } = useParams();
  const number = Number(id);
  const post = useQuery(postQuery(blog, number));
  const preview = useQuery(postPreviewQuery(blog, number));
  const decision = useQuery({
    ...postDecisionQuery(blog, number),
    enabled: Boolean(post.data?.campaign_slug),
  });
  const moving = usePostMoves(blog);
  const editor = useMay()("editor");
  const [withdrawing, setWithdrawing] = useState(false);
  const [scheduling, setScheduling] = useState(false);
  if (post.error) return <ErrorNote error={post.error} onRetry={post.refetch} />;
  if (!post.data) return <Loading what="the post" />;
  const { data } = post;
  return (
    <>
      <Head title={data.title} facts={<StateMark state={data.state} />}>
        {editor && data.state !== "binned" && data.state !== "gone" && (
          <Link className={buttonLook("plain", true)} to={desk.editPost(blog, number)}>
            Edit
          </Link>
        )}
        <PostActions blog={blog} post={data} moving={moving} />
        {editor && data.state !== "gone" && (
          <Menu
            trigger={
              <button
                type="button"
                aria-label="More"
                className="inline-flex size-7 items-center justify-center rounded text-ink2 hover:bg-sunk"
              >
                <EllipsisVertical size={16} />
              </button>
            }
            entries={[
              ...(data.moves.includes("scheduled") && data.state !== "binned"
                ? [{ label: "Schedule", hint: "goes out at a time", onSelect: () => setScheduling(true) }]
                : []),
              ...(data.state === "binned"
                ? []
                : [
                    {
                      label: "Delete",
                      hint: "into the bin; its item stays away",
                      danger: true,
                      onSelect: () => moving.mutate({ post: data, to: "binned" }),
                    },
                  ]),
              ...(data.link
                ? [
                    {
                      label: "Take down",
                      hint: "withdraw and block, with a record",
                      danger: true,
                      onSelect: () => setWithdrawing(true),
                    },
                  ]
                : []),
            ]}
          />
        )}
      </Head>
      {scheduling && (
        <ScheduleDialog
          number={1}
          onClose={() => setScheduling(false)}
          onChosen={(date) => {
            setScheduling(false);
            moving.mutate({ post: data, to: "scheduled", date });
          }}
        />
      )}
      {withdrawing && (
        <TakedownDialog
          blog={blog}
          title={`Take down “${data.title}”?`}
          text="Every post of this blog that leads to the same original goes into the bin, and no campaign takes it again."
          onTakeDown={(ask) => takeDownPost(blog, number, ask)}
          onClose={() => setWithdrawing(false)}
          onDone={() => setWithdrawing(false)}
        />
      )}
      <div className="grid min-h-0 flex-1 grid-rows-[minmax(0,1fr)] grid-cols-[minmax(0,1fr)_404px]">
        <div className="min-h-0 bg-sunk p-4">
          {preview.error && <ErrorNote error={preview.error} onRetry={preview.refetch} />}
          {preview.data && <Preview html={preview.data.html} title={data.title} />}
        </div>
        <aside
          aria-label="Why it is here"
          className="min-h-0 overflow-auto border-l border-line bg-sheet p-4"
        >
          {data.state === "published" && <CorrectionNote blog={blog} id={number} editor={editor} />}
          {data.edition_of === null ? (
            <PostEditions blog={blog} post={data} />
          ) : (
            <EditionOf blog={blog} post={data} original={data.edition_of} />
          )}
          {data.state !== "gone" && <PostFindable blog={blog} id={number} />}
          <h2 className="text-base">Why it is here</h2>
          <p className="text-xs text-ink3">
            {data.campaign_slug ? (
              <>
                <Link className="hover:text-verd" to={desk.bench(blog, data.campaign_slug)}>
                  {data.campaign}
                </Link>
                , revision {data.revision} · {data.source}
              </>
            ) : data.edition_of === null ? (
              "Written by hand"
            ) : (
              `Made from its original · ${data.source || "written by hand"}`
            )}
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
          {decision.isLoading && <Loading what="the trace" />}
          {decision.data && <Trace blog={blog} decision={decision.data} />}
        </aside>
      </div>
    </>
  );
}
