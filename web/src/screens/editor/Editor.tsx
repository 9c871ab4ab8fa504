import { useState } from "react";
import { Link } from "react-router";
import type { Post, PostValues } from "@/api/posts";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { ON_SCREEN, SaveButtons } from "@/components/editing/SaveButtons";
import { Head } from "@/components/Head";
import { StateMark } from "@/components/StateMark";
import { desk } from "@/lib/blog-path";
import { PostActions } from "@/screens/posts/PostActions";
import { usePostMoves } from "@/screens/posts/usePostMoves";
import { buttonLook } from "@/ui/Button";
import { inputLook } from "@/ui/Field";
import { Scroll } from "@/ui/Scroll";
import { Segmented } from "@/ui/Segmented";
import { BodyEditor } from "./BodyEditor";
import { Details } from "./Details";
import { DraftPreview } from "./DraftPreview";
import { History } from "./History";
import { useEditing } from "./useEditing";

interface EditorProps {
  blog: string;
  id: number;
  post: Post | undefined;
  saved: PostValues;
  onSaved: (post: Post) => void;
}

/** What shows its faults in the details. */
const SHOWN = ["date", "slug", "lead_url", "pass_phrase", "canonical"];

type Side = "preview" | "details" | "history";

/** The editor of a post, beside its preview, details and history. */
export function Editor({ blog, id, post, saved, onSaved }: EditorProps) {
  const editing = useEditing({ blog, id, saved, onSaved });
  const moving = usePostMoves(blog);
  const [side, setSide] = useState<Side>("details");
  const { now, set, changed } = editing;
  return (
    <>
      <EditGuard edited={editing} />
      <Head
        title={id ? "Edit the post" : "Write a post"}
        facts={post ? <StateMark state={post.state} /> : <span className="text-ink3">begins as a draft</span>}
      >
        {post && (
          <>
            <Link className={buttonLook("quiet", true)} to={desk.post(blog, id)}>
              Why it is here
            </Link>
            {!changed && <PostActions blog={blog} post={post} moving={moving} />}
          </>
        )}
        <SaveButtons edited={editing} what="the post" keys={ON_SCREEN} />
      </Head>
      <EditNotices edited={editing} what="the post" fields={SHOWN} />
      <div className="grid min-h-0 flex-1 grid-rows-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_430px]">
        <Scroll label="Text of the post" className="flex min-h-0 flex-col gap-3 p-4">
          <input
            aria-label="Title"
            placeholder="Title"
            className={`${inputLook} text-xl font-semibold`}
            value={now.title}
            onChange={(event) => set({ title: event.target.value })}
          />
          <label className="block">
            <span className="mb-1 block font-semibold">Excerpt</span>
            <textarea
              rows={2}
              className={inputLook}
              value={now.excerpt}
              onChange={(event) => set({ excerpt: event.target.value })}
            />
          </label>
          <BodyEditor blog={blog} body={now.body} onChange={(body) => set({ body })} />
        </Scroll>
        <aside aria-label="Beside the text" className="flex min-h-0 flex-col border-l border-line bg-sheet">
          <div className="flex shrink-0 border-b border-line2 px-4 py-2">
            <Segmented<Side>
              label="Beside the text"
              value={side}
              onChange={setSide}
              options={[
                { value: "details", label: "Details" },
                { value: "preview", label: "As the blog shows it" },
                ...(id ? [{ value: "history" as const, label: "History" }] : []),
              ]}
            />
          </div>
          {side === "details" && <Details blog={blog} editing={editing} />}
          {side === "preview" && <DraftPreview blog={blog} id={id} values={now} />}
          {side === "history" && <History blog={blog} id={id} version={saved.version} dirty={changed} />}
        </aside>
      </div>
    </>
  );
}
