import { count } from "@/lib/format";
import { Button } from "@/ui/Button";

/** The number of rows on a page of a list. */
export const PAGE = 50;

/** The largest number of campaigns or sources in a choice, the limit of the server. */
export const MOST_NAMED = 200;

/** The number of search results that the server lists. */
export const SEARCHED = 1000;

interface PagingProps {
  offset: number;
  size: number;
  total: number;
  /** The end of the list, where more was found. */
  endsAt?: number | undefined;
  /** In which order the rows stand: “newest first”. A list that says so shows it on one page too. */
  order?: string | undefined;
  onChange: (offset: number) => void;
}

export function Paging({ offset, size, total, endsAt, order, onChange }: PagingProps) {
  if (total <= size && offset === 0)
    return order ? (
      <p className="px-4 py-2 text-ink3">
        {count(total)}, {order}
      </p>
    ) : null;
  const last = Math.min(total, offset + size);
  return (
    <nav aria-label="Pages" className="flex items-center justify-end gap-2 px-4 py-2 text-ink3">
      <span className="mr-auto">
        {count(offset + 1)} to {count(last)} of {count(total)}
        {order && `, ${order}`}
        {total === endsAt && ": more was found than is listed. Search for more words to narrow it."}
      </span>
      <Button small disabled={offset === 0} onClick={() => onChange(Math.max(0, offset - size))}>
        Before
      </Button>
      <Button small disabled={last >= total} onClick={() => onChange(offset + size)}>
        Next
      </Button>
    </nav>
  );
}
