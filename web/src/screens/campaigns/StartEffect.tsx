import type { Tried } from "@/api/proofs";
import { Reason } from "@/components/Reason";
import { plural } from "@/lib/format";

/** What a start would make of real items: its first posts, and why other items are none. */
export function StartEffect({ title, tried }: { title: string; tried: Tried }) {
  if (!tried.items) {
    return (
      <p className="mt-2 text-ink3">
        The chosen sources have no item of the last year to show it with. Read them first, or go on without.
      </p>
    );
  }
  return (
    <section aria-label={`What “${title}” would do`} className="mt-3 rounded-lg bg-chalk p-3">
      <p className="font-semibold">
        {tried.posts
          ? `${plural(tried.posts, "post")} of the ${plural(tried.items, "newest item")}`
          : `No post of the ${plural(tried.items, "newest item")}`}
        {tried.on_blog > 0 && (
          <span className="font-normal text-ink2">
            {tried.on_blog === tried.posts ? ", all of them" : `, ${tried.on_blog} of them`} on the blog
            already and not made again
          </span>
        )}
        {tried.held > 0 && <span className="font-normal text-ink2">, {tried.held} held for review</span>}
      </p>
      {tried.first.length > 0 && (
        <ul aria-label="The first posts" className="mt-2 space-y-2">
          {tried.first.map((post) => (
            <li key={post.title} className="border-l-2 border-verd pl-2.5">
              <span className="font-medium">{post.title}</span>{" "}
              <span className="text-xs text-ink3">{plural(post.words, "word")}</span>
              <span className="line-clamp-2 text-xs text-ink2">{post.excerpt}</span>
            </li>
          ))}
        </ul>
      )}
      {tried.reasons.length > 0 && (
        <ul aria-label="No post" className="mt-2 space-y-0.5 text-xs text-ink2">
          {tried.reasons.map(({ verdict, reason, count, title: item }) => (
            <li key={`${reason?.code} ${reason?.rule}`}>
              {plural(count, "item")}: <Reason verdict={verdict} reason={reason} />, such as “{item}”
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
