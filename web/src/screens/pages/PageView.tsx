import { useQueries } from "@tanstack/react-query";
import clsx from "clsx";
import { frameAddress, marksQuery } from "@/api/pages";
import { Loading } from "@/components/Loading";
import { moment, plural } from "@/lib/format";
import { Scroll } from "@/ui/Scroll";
import { Segmented } from "@/ui/Segmented";
import { ARTICLE_FIELDS, LIST_FIELDS, partName, selectorOf } from "./document";
import { FieldValues } from "./FieldValues";
import type { MarkGroup } from "./Marks";
import { PageFrame } from "./PageFrame";
import { SiteParts } from "./SiteParts";
import { TestTable } from "./TestTable";
import type { ReaderState, View } from "./useReader";

const VIEWS: { id: View; name: string }[] = [
  { id: "list", name: "List page" },
  { id: "article", name: "Article page" },
  { id: "test", name: "Test table" },
];

const PARTS = {
  list: ["link", ...LIST_FIELDS, "next"],
  article: [...ARTICLE_FIELDS, "remove", "next_part"],
};

function useGroups(blog: string, state: ReaderState): MarkGroup[] {
  const page = state.page?.id ?? null;
  const side = state.view === "article" ? "article" : "list";
  const parts = PARTS[side]
    .map((name) => ({ name, selector: selectorOf(state.document, { page: side, name }) }))
    .filter(({ selector }) => selector);
  const found = useQueries({
    queries: parts.map(({ selector }) => ({
      ...marksQuery(blog, page ?? 0, selector),
      enabled: page !== null,
    })),
  });
  return parts.map(({ name }, place) => ({
    name: partName(name).toLowerCase(),
    places: found[place]?.data?.places ?? [],
    active: state.target?.name === name && state.target.page === side,
  }));
}

function Nothing({ state, editor }: { state: ReaderState; editor: boolean }) {
  const first = state.firstArticle;
  return (
    <div className="m-4 rounded-[10px] border border-dashed border-line p-8 text-center text-ink3">
      <p>No article is open yet.</p>
      {first && editor && (
        <button
          type="button"
          className="mt-2 font-semibold text-verd"
          onClick={() => state.opening.mutate({ url: first, as: "article" })}
        >
          Open the first one of the list
        </button>
      )}
    </div>
  );
}

/** The page with its marks, or the test table: the left half of the reader's desk. */
export function PageView({ blog, state, editor }: { blog: string; state: ReaderState; editor: boolean }) {
  const groups = useGroups(blog, state);
  const { view, page } = state;
  const rows = state.testing.data ?? [];
  const fields = state.document.article.fields.map(({ name }) => name);
  function pointAt(url: string, field: string) {
    state.opening.mutate({ url, as: "article" });
    state.aim({ page: "article", name: field });
  }
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col bg-sunk">
      <div role="tablist" aria-label="Page" className="flex items-center gap-4 border-b border-line px-3.5">
        {VIEWS.map(({ id, name }) => (
          <button
            key={id}
            type="button"
            role="tab"
            aria-selected={view === id}
            onClick={() => state.setView(id)}
            className={clsx(
              "-mb-px border-b-2 py-2.5 whitespace-nowrap",
              view === id ? "border-verd font-semibold" : "border-transparent text-ink3 hover:text-ink",
            )}
          >
            {name}
          </button>
        ))}
        {state.canLeaveOut && state.target?.page === view && (
          <span className="ml-auto py-1">
            <Segmented<"adds" | "leaves">
              label="What a click does"
              value={state.leavesOut ? "leaves" : "adds"}
              onChange={(next) => state.setLeavesOut(next === "leaves")}
              options={[
                { value: "adds", label: "a click adds an example" },
                { value: "leaves", label: "leaves out" },
              ]}
            />
          </span>
        )}
        {page && view !== "test" && !state.canLeaveOut && (
          <span className="ml-auto truncate text-xs text-ink3">
            fetched {moment(page.taken_at)}
            {view === "list" && state.list.data && ` · ${plural(state.list.data.entries.length, "article")}`}
          </span>
        )}
      </div>
      <Scroll label="The page" className="min-h-0 flex-1">
        {state.opening.isPending && <Loading what="the page" />}
        {state.opening.error && (
          <p role="alert" className="m-4 text-madder">
            {state.opening.error.message}
          </p>
        )}
        {view === "list" && page?.kind === "sitemap" && (
          <p className="p-8 text-center text-ink3">
            A sitemap is for programs: there is nothing to show of it.
          </p>
        )}
        {view !== "test" && page && page.kind !== "sitemap" && !state.opening.isPending && (
          <PageFrame
            key={page.id}
            address={frameAddress(blog, page.id)}
            label={view === "list" ? "List page" : "Article page"}
            groups={groups}
            pointing={state.target !== null && state.target.page === view}
            onPoint={state.point}
          />
        )}
        {view === "article" && !page && !state.opening.isPending && <Nothing state={state} editor={editor} />}
        {view === "test" && (
          <div className="p-4">
            {state.testing.isPending && <Loading what="the sample articles" />}
            {state.testing.error && <p className="text-madder">{state.testing.error.message}</p>}
            {!state.testing.isPending && rows.length > 0 && (
              <div className="space-y-4 rounded-[10px] border border-line bg-sheet p-3">
                <FieldValues rows={rows} fields={fields} onPoint={pointAt} />
                <SiteParts
                  rows={rows}
                  kept={state.document.article.keep}
                  onKeep={(keep) =>
                    state.setDocument((document) => ({ ...document, article: { ...document.article, keep } }))
                  }
                />
                <TestTable rows={rows} fields={fields} onOpen={pointAt} />
              </div>
            )}
            {!state.testing.isPending && !rows.length && (
              <p className="p-8 text-center text-ink3">
                {state.canTest
                  ? "Press “Test on sample articles” to see what is read of each, field by field."
                  : "The list names no article yet. Point at the article links first."}
              </p>
            )}
          </div>
        )}
      </Scroll>
    </div>
  );
}
