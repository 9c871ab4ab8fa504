import { count } from "@/lib/format";
import { Button } from "@/ui/Button";

interface PagingProps {
  offset: number;
  size: number;
  total: number;
  onChange: (offset: number) => void;
}

export function Paging({ offset, size, total, onChange }: PagingProps) {
  if (total <= size && offset === 0) return null;
  const last = Math.min(total, offset + size);
  return (
    <nav aria-label="Pages" className="flex items-center justify-end gap-2 px-4 py-2 text-ink3">
      <span className="mr-auto">
        {count(offset + 1)} to {count(last)} of {count(total)}
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
