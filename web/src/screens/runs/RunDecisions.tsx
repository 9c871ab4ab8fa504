import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Verdict } from "@/api/proofs";
import { decisionsQuery, isUnderWay, type Run } from "@/api/runs";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { VERDICT_WORDS } from "@/lib/wording";
import { DecisionList } from "./DecisionList";

/** The decisions of a run, each leading to its trace. */
export function RunDecisions({ blog, run, verdict }: { blog: string; run: Run; verdict: Verdict | "" }) {
  const [search, setSearch] = useState("");
  const [offset, setOffset] = useState(0);
  // Another list begins at its first page.
  const [listed, setListed] = useState(verdict + search);
  if (listed !== verdict + search) {
    setListed(verdict + search);
    setOffset(0);
  }
  const live = isUnderWay(run);
  const decisions = useQuery(decisionsQuery(blog, run.id, { verdict, search, offset }, live));
  return (
    <section aria-label="Decisions" className="sheet-card">
      <div className="flex items-center gap-3 px-4 py-2">
        <h2 className="text-sm">{verdict ? `Items ${VERDICT_WORDS[verdict]}` : "Items decided"}</h2>
        <span className="ml-auto">
          <SearchBox label="Find an item" value={search} onChange={setSearch} />
        </span>
      </div>
      {decisions.error && <ErrorNote error={decisions.error} onRetry={decisions.refetch} />}
      {decisions.isPending && <Loading what="decisions" />}
      {decisions.data?.total === 0 && (
        <p className="border-t border-line2 p-6 text-center text-ink3">
          {live
            ? "Nothing is decided yet."
            : "No item here. A run decides what no earlier run of this campaign has decided; new items come when the sources have some."}
        </p>
      )}
      {decisions.data && <DecisionList blog={blog} label="Items" rows={decisions.data.rows} />}
      {decisions.data && (
        <Paging
          order="last decided first"
          offset={offset}
          size={PAGE}
          total={decisions.data.total}
          onChange={setOffset}
        />
      )}
    </section>
  );
}
