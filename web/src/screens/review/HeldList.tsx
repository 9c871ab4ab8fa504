import clsx from "clsx";
import { useEffect, useRef } from "react";
import { ago } from "@/lib/format";
import { languageName } from "@/lib/languages";
import type { ReviewState } from "./useReview";

/** The held posts; the present one stays visible. */
export function HeldList({ review }: { review: ReviewState }) {
  const { rows, post, marked } = review;
  const list = useRef<HTMLUListElement>(null);
  const chosen = post?.id;
  useEffect(() => {
    list.current?.querySelector(`[data-post="${chosen}"]`)?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  return (
    <ul ref={list} aria-label="Held posts">
      {rows.map((row) => (
        <li key={row.id} data-post={row.id} className="border-b border-line2">
          <button
            type="button"
            aria-current={row.id === chosen}
            onClick={() => review.choose(row.id)}
            className={clsx(
              "block w-full px-3.5 py-2 text-left hover:bg-chalk",
              row.id === chosen && "bg-verd-wash hover:bg-verd-wash",
            )}
          >
            <span className="flex items-baseline gap-2">
              {marked.has(row.id) && (
                <span className="text-verd" role="img" aria-label="marked">
                  ✓
                </span>
              )}
              <span className="min-w-0 flex-1 truncate font-medium">{row.title}</span>
              <span className="text-xs text-ink3 tabular-nums">{ago(row.created_at)}</span>
            </span>
            <span className="block truncate text-xs text-ink3">
              {row.source} ·{" "}
              {row.edition_of === null ? row.campaign : `edition in ${languageName(row.language)}`}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}
