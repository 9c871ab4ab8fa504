import { useQueries, useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { EVERY_POST, postQuery, postsQuery } from "@/api/posts";
import { SortableList } from "@/ui/SortableList";
import { FIRST_FOUND, WordSearch } from "@/ui/WordSearch";

const MOST = 24;

interface ChosenPostsProps {
  blog: string;
  numbers: readonly number[];
  onChange: (numbers: number[]) => void;
}

/** Posts chosen by hand, in the order in which the front shows them. */
export function ChosenPosts({ blog, numbers, onChange }: ChosenPostsProps) {
  const [search, setSearch] = useState<string | null>(null);
  const posts = useQueries({ queries: numbers.map((number) => postQuery(blog, number)) });
  const filter = {
    ...EVERY_POST,
    state: "published",
    search: search ?? "",
    sort: "newest",
    offset: 0,
  } as const;
  const found = useQuery({ ...postsQuery(blog, filter), enabled: search !== null }).data;
  const entries = numbers.map((number, place) => ({
    id: String(number),
    number,
    title: posts[place]?.data?.title ?? (posts[place]?.error ? "no longer there" : `post ${number}`),
  }));
  const others = found?.rows.filter(({ id }) => !numbers.includes(id)).slice(0, FIRST_FOUND);
  return (
    <div className="mt-2 space-y-2">
      <SortableList
        label="Chosen posts"
        one="post"
        entries={entries}
        nameOf={({ title }) => title}
        onMove={(from, to) => {
          const next = [...numbers];
          next.splice(to, 0, ...next.splice(from, 1));
          onChange(next);
        }}
      >
        {(entry, _, handle) => (
          <div className="flex items-center gap-1">
            {handle}
            <span dir="auto" className="min-w-0 truncate">
              {entry.title}
            </span>
            <button
              type="button"
              aria-label={`Leave out ${entry.title}`}
              className="ml-auto inline-flex size-6 shrink-0 items-center justify-center text-ink3 hover:text-madder"
              onClick={() => onChange(numbers.filter((number) => number !== entry.number))}
            >
              <X size={13} />
            </button>
          </div>
        )}
      </SortableList>
      {numbers.length < MOST && (
        <WordSearch
          label="Post"
          value=""
          shown=""
          any="add a post"
          found={
            others && {
              rows: others.map(({ id, title }) => ({ value: String(id), label: title })),
              total: others.length,
            }
          }
          onSearch={setSearch}
          onChange={(number) => number && onChange([...numbers, Number(number)])}
        />
      )}
    </div>
  );
}
