import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Scroll } from "@/ui/Scroll";
import { Empty } from "./Empty";
import { ErrorNote } from "./ErrorNote";
import { Loading } from "./Loading";
import { PAGE, Paging } from "./Paging";

interface PagedSheetProps<Row> {
  label: string;
  /** What is loaded, in a sentence: “films and sound”. */
  what: string;
  page: UseQueryResult<{ rows: Row[]; total: number }>;
  offset: number;
  onOffset: (offset: number) => void;
  empty: { title: string; text: string };
  /** In which order the rows stand. */
  order?: string;
  children: (row: Row) => ReactNode;
}

/** A paged list on one sheet, with its loading, error and empty states. */
export function PagedSheet<Row>({
  label,
  what,
  page,
  offset,
  onOffset,
  empty,
  order = "newest first",
  children,
}: PagedSheetProps<Row>) {
  return (
    <Scroll label={label} className="min-h-0 flex-1 p-5">
      <div className="mx-auto max-w-4xl">
        {page.error && <ErrorNote error={page.error} onRetry={page.refetch} />}
        {page.isPending && <Loading what={what} />}
        {page.data?.total === 0 && <Empty {...empty} />}
        {page.data && page.data.total > 0 && (
          <div className="sheet-card">
            <ul aria-label={label}>{page.data.rows.map(children)}</ul>
            <Paging offset={offset} size={PAGE} total={page.data.total} order={order} onChange={onOffset} />
          </div>
        )}
      </div>
    </Scroll>
  );
}
