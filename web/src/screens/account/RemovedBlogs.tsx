import { useQuery } from "@tanstack/react-query";
import { bringBackBlog, removedBlogsQuery } from "@/api/blogs";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Part } from "@/components/Part";
import { moment } from "@/lib/format";
import { Button } from "@/ui/Button";
import { useTell } from "@/ui/Toasts";

/** Removed blogs that can still be restored; nothing for none. */
export function RemovedBlogs() {
  const tell = useTell();
  const removed = useQuery(removedBlogsQuery).data ?? [];
  const bringing = useChange((slug: string) => bringBackBlog(slug), {
    refresh: [keys.blogs()],
    onDone: (blog) => tell(`${blog.title} is restored. Its campaigns go on.`),
  });
  if (!removed.length) return null;
  return (
    <Part title="Removed blogs" text="They are deleted 30 days after they were removed.">
      <FormError error={bringing.error} />
      <ul className="space-y-2">
        {removed.map((blog) => (
          <li key={blog.slug} className="flex items-center gap-3">
            <span className="font-semibold">{blog.title}</span>
            <span className="text-xs text-ink3">removed {moment(blog.removed_at)}</span>
            <Button
              small
              className="ml-auto"
              busy={bringing.isPending}
              onClick={() => bringing.mutate(blog.slug)}
            >
              Restore
            </Button>
          </li>
        ))}
      </ul>
    </Part>
  );
}
