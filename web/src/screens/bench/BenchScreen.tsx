import { useMemo, useState } from "react";
import type { Campaign } from "@/api/campaigns";
import type { ProofRow, Stage } from "@/api/proofs";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { SkipLink } from "@/ui/SkipLink";
import { BenchHead } from "./BenchHead";
import { EditBar } from "./EditBar";
import { Funnel } from "./Funnel";
import { Inspector } from "./Inspector";
import { ItemList } from "./items/ItemList";
import { type ItemFilter, listOf, shownItems } from "./items/shown-items";
import { usePicked } from "./items/usePicked";
import { MissingConnections } from "./MissingConnections";
import { StagePanel } from "./StagePanel";
import { USUAL_OVER, useBench } from "./useBench";
import { useBenchPlace } from "./useBenchPlace";
import { useRuleOffered } from "./useRuleOffered";

const NO_ROWS: readonly ProofRow[] = [];

/** Rules on the left, the items of the proof in the middle, the chosen item on the right. */
export function BenchScreen({ blog, campaign }: { blog: string; campaign: Campaign }) {
  const bench = useBench(blog, campaign);
  useRuleOffered(bench.change);
  const { stage, setStage, filter, setFilter, source, setSource, sort, setSort, chosen, setChosen } =
    useBenchPlace();
  // A stage opened before the proof gets its list when the proof arrives.
  const [listDue, setListDue] = useState(false);
  const [search, setSearch] = useState("");
  const { picked, pick, clear } = usePicked();

  function choose(next: ItemFilter) {
    setFilter(next);
    setListDue(false);
  }

  function provePicked() {
    bench.setOver({ ...USUAL_OVER, items: [...picked] });
    choose("all");
    clear();
  }

  function showFault(at: Stage, rule: string | null) {
    setStage(at);
    // The panel of the stage is drawn first.
    setTimeout(() => {
      const card = rule ? document.querySelector<HTMLElement>(`[data-rule="${CSS.escape(rule)}"]`) : null;
      card?.scrollIntoView({ block: "center" });
      card?.querySelector<HTMLElement>("input, button, [contenteditable=true]")?.focus();
    });
  }

  const proof = bench.proof.data;
  if (proof && listDue) choose(listOf(proof.items, stage, filter));
  const rows = proof?.items ?? NO_ROWS;
  const items = useMemo(
    () => shownItems(rows, { filter, stage, search, source, sort }),
    [rows, filter, stage, search, source, sort],
  );
  const item = items.find((item) => item.id === chosen) ?? items[0];
  return (
    <>
      <SkipLink to="items">Skip to the items</SkipLink>
      <SkipLink to="chosen-item">Skip to the chosen item</SkipLink>
      <BenchHead blog={blog} campaign={campaign} bench={bench} />
      <MissingConnections blog={blog} bench={bench} />
      <EditNotices edited={bench.rules} what="the campaign" who={campaign.saved_by} />
      <Funnel
        proof={proof}
        document={bench.document}
        stage={stage}
        onStage={(next) => {
          setStage(next);
          setListDue(true);
        }}
      />
      <div className="grid min-h-0 flex-1 lg:grid-cols-[290px_minmax(0,1fr)_350px] lg:grid-rows-[minmax(0,1fr)] xl:grid-cols-[332px_minmax(0,1fr)_404px]">
        <StagePanel blog={blog} slug={campaign.slug} stage={stage} bench={bench} />
        <ItemList
          proof={proof}
          error={bench.proof.error}
          document={bench.document}
          onShowFault={showFault}
          onRetry={bench.proof.refetch}
          items={items}
          stage={stage}
          filter={filter}
          onFilter={choose}
          search={search}
          onSearch={setSearch}
          source={source}
          onSource={setSource}
          sort={sort}
          onSort={setSort}
          chosen={item?.id ?? null}
          onChoose={setChosen}
          picked={picked}
          onPick={pick}
          onProvePicked={provePicked}
        />
        <Inspector
          blog={blog}
          slug={campaign.slug}
          asked={bench.asked}
          proof={proof}
          item={item?.id ?? null}
        />
      </div>
      <EditGuard edited={bench.rules} />
      {(bench.edited || bench.against !== null) && <EditBar bench={bench} />}
    </>
  );
}
