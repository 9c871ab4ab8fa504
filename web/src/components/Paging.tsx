import { count } from "@/lib/format";
import { Button } from "@/ui/Button";

/** How many rows a page of a list has. */
export const PAGE = 50;

/** How many campaigns or sources a choice names: as many as the server gives at once. */
export const MOST_NAMED = 200;

/** How far the server lists what a search finds. */
export const SEARCHED = 1000;

interface PagingProps {
  offset: number;
  size: number;
  total: number;
  /** Where the list ends although more was found. */
  endsAt?: number | undefined;
  onChange: (offset: number) => void;
}

export function Paging({ offset, size, total, endsAt, onChange }: PagingProps) {
  if (total <= size && offset === 0) return null;
  const last = Math.min(total, offset + size);
  return (
    <nav aria-label="Pages" className="flex items-center justify-end gap-2 px-4 py-2 text-ink3">
      <span className="mr-auto">
        {count(offset + 1)} to {count(last)} of {count(total)}
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
