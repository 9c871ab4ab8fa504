import { Link } from "react-router";
import type { ProductPage } from "@/api/offers";
import { StateMark } from "@/components/StateMark";
import { desk } from "@/lib/blog-path";
import { moment } from "@/lib/format";

/** The newest posts that show a product. */
export function ShowingPosts({ blog, posts }: { blog: string; posts: ProductPage["posts"] }) {
  if (!posts.length) return <p className="text-ink3">No post shows it, so it is not read by itself.</p>;
  return (
    <ul>
      {posts.map((post) => (
        <li key={post.id} className="flex items-center gap-3 border-line2 border-t py-1.5 first:border-0">
          <StateMark state={post.state} />
          <Link className="min-w-0 flex-1 truncate hover:text-verd" to={desk.post(blog, post.id)}>
            {post.title}
          </Link>
          <span className="text-ink3 text-xs">{moment(post.date)}</span>
        </li>
      ))}
    </ul>
  );
}
