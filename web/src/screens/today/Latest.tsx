import { Link } from "react-router";
import type { Today } from "@/api/today";
import { desk } from "@/lib/blog-path";
import { since } from "@/lib/format";

/** The latest published posts. */
export function Latest({ blog, posts }: { blog: string; posts: Today["latest"] }) {
  return (
    <section aria-label="Latest posts" className="sheet-card min-w-0 p-4">
      <h2 className="text-sm">
        Latest posts <span className="font-normal text-ink3">newest first</span>
      </h2>
      {posts.length === 0 && <p className="mt-3 text-ink3">No post is on the blog yet.</p>}
      <ul className="mt-2">
        {posts.map((post) => (
          <li key={post.id} className="flex items-center gap-3 border-t border-line2 py-2">
            {post.picture ? (
              <img
                src={post.picture}
                alt=""
                loading="lazy"
                className="h-[34px] w-[46px] shrink-0 rounded-[5px] bg-sunk object-cover"
              />
            ) : (
              <span className="h-[34px] w-[46px] shrink-0 rounded-[5px] bg-sunk" />
            )}
            <div className="min-w-0">
              <Link className="block truncate font-medium hover:text-verd" to={desk.post(blog, post.id)}>
                {post.title}
              </Link>
              <p className="truncate text-[11.5px] text-ink3">
                {[post.category, post.campaign, since(post.date)].filter(Boolean).join(" · ")}
              </p>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
