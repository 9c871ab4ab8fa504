import { Link } from "react-router";
import type { Move, Post } from "@/api/posts";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { Trace } from "@/components/Trace";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";
import { EditionOf } from "@/screens/editions/EditionOf";
import { Button } from "@/ui/Button";
import { Scroll } from "@/ui/Scroll";
import { AlikePosts } from "./AlikePosts";
import { SameEvent } from "./SameEvent";
import { TakenOut } from "./TakenOut";
import type { ReviewState } from "./useReview";
import type { ReviewDoes } from "./useReviewKeys";

interface WhyHeldProps {
  blog: string;
  review: ReviewState;
  post: Post;
  reviewer: boolean;
  does: ReviewDoes;
}

function rightWords({ right, right_words }: Post): string {
  if (right === "excerpt") return `an excerpt of ${right_words} words`;
  return right === "link" ? "a link only" : "full text";
}

function Key({ name }: { name: string }) {
  return <kbd className="ml-2 rounded border border-current px-1 text-[10px] opacity-70">{name}</kbd>;
}

/** The reasons for holding a post, its origin, and the buttons to decide. */
export function WhyHeld({ blog, review, post, reviewer, does }: WhyHeldProps) {
  const { decision, marked } = review;
  const may = (to: Move) => reviewer && (marked.size > 0 || post.moves.includes(to));
  const several = marked.size ? ` ${plural(marked.size, "post")}` : "";
  return (
    <aside aria-label="Why it is held" className="flex min-h-0 flex-col border-l border-line bg-sheet">
      <Scroll label="Trace" className="min-h-0 flex-1 p-4">
        {post.edition_of !== null && <EditionOf blog={blog} post={post} original={post.edition_of} />}
        {post.campaign_slug && (
          <p className="text-xs text-ink3">
            <Link className="hover:text-verd" to={desk.bench(blog, post.campaign_slug)}>
              {post.campaign}
            </Link>
            , revision {post.revision} · {post.source}
          </p>
        )}
        {post.right && <p className="mt-1 text-xs text-ink3">The source allows {rightWords(post)}.</p>}
        {post.tags.length > 0 && (
          <p className="mt-1 text-xs text-ink3">{post.tags.map((tag) => `#${tag}`).join(" ")}</p>
        )}
        {decision.error && <ErrorNote error={decision.error} onRetry={decision.refetch} />}
        {decision.isLoading && <Loading what="the trace" />}
        {decision.data && <Trace blog={blog} decision={decision.data} />}
        <AlikePosts blog={blog} id={post.id} />
        <SameEvent blog={blog} id={post.id} />
        {decision.data && <TakenOut blog={blog} id={post.id} decision={decision.data} />}
      </Scroll>
      {reviewer && (
        <div className="grid shrink-0 grid-cols-2 gap-2 border-t border-line p-3">
          <Button look="primary" disabled={!may("published")} onClick={() => review.decide("published")}>
            Publish{several}
            <Key name="P" />
          </Button>
          <Button look="danger" disabled={!may("refused")} onClick={() => review.decide("refused")}>
            Refuse{several}
            <Key name="X" />
          </Button>
          <Button disabled={!may("draft")} onClick={() => review.decide("draft")}>
            Draft
            <Key name="D" />
          </Button>
          <Button disabled={!may("scheduled")} onClick={does.schedule}>
            Schedule
            <Key name="S" />
          </Button>
          <button type="button" className="min-h-6 text-xs text-ink3 hover:text-verd" onClick={does.refuse}>
            Refuse with a reason <kbd>R</kbd>
          </button>
          <Link
            className="min-h-6 self-center text-center text-xs text-ink3 hover:text-verd"
            to={desk.editPost(blog, post.id)}
          >
            Edit <kbd>E</kbd>
          </Link>
        </div>
      )}
    </aside>
  );
}
