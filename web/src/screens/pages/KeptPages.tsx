import { useQuery } from "@tanstack/react-query";
import { keptPagesQuery } from "@/api/pages";
import { moment } from "@/lib/format";

interface KeptPagesProps {
  blog: string;
  reader: string;
  /** The page that is shown now. */
  shown: number | null;
  onOpen: (number: number, as: "list" | "article") => void;
}

function pathOf(url: string): string {
  return url.replace(/^https?:\/\/[^/]+/, "") || "/";
}

/** The stored pages of recent readings, on which the reader can be tried. */
export function KeptPages({ blog, reader, shown, onOpen }: KeptPagesProps) {
  const pages = useQuery(keptPagesQuery(blog, reader)).data ?? [];
  if (!pages.length) return null;
  return (
    <section aria-label="Kept pages">
      <h3 className="font-semibold">Kept pages</h3>
      <ul className="mt-1 space-y-1 text-xs">
        {pages.map((page) => (
          <li key={page.id} className="flex items-center gap-2">
            <button
              type="button"
              title={page.url}
              aria-current={page.id === shown}
              className="min-h-6 truncate text-left hover:text-verd aria-[current=true]:font-semibold"
              onClick={() => onOpen(page.id, page.lists ? "list" : "article")}
            >
              {pathOf(page.url)}
            </button>
            <span className="ml-auto whitespace-nowrap text-ink3">{moment(page.taken_at)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
