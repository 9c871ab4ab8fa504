import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { blogQuery } from "@/api/blogs";
import type { ReaderDocument } from "@/api/pages";
import { same } from "@/lib/editing/edits";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Scroll } from "@/ui/Scroll";
import { WordDate } from "@/ui/WordDate";
import { WordNumber } from "@/ui/WordNumber";
import { WordText } from "@/ui/WordText";
import { DataCard } from "./DataCard";
import {
  ARTICLE_FIELDS,
  LIST_FIELDS,
  partName,
  selectorOf,
  type Target,
  wayOf,
  withSelector,
  withWay,
} from "./document";
import { PartCard } from "./PartCard";
import { SectionRows } from "./SectionRows";
import type { ReaderState } from "./useReader";

const IN_ANY_WAY = "found without a selector";

function Proposals({ state }: { state: ReaderState }) {
  const lists = state.pages.list?.lists ?? [];
  if (lists.length < 2) return null;
  return (
    <div className="flex flex-wrap gap-1.5 text-xs">
      {lists.map((one) => (
        <button
          key={one.list_page.data?.list ?? one.list_page.link}
          type="button"
          title={one.titles.join("\n")}
          aria-pressed={same(one.list_page, { ...state.document.list_page, pages: one.list_page.pages })}
          onClick={() => state.setDocument((before) => ({ ...before, list_page: one.list_page }))}
          className="min-h-6 rounded-full border border-line bg-sheet px-2.5 py-0.5 text-ink2 hover:border-verd aria-pressed:border-verd aria-pressed:bg-verd-wash aria-pressed:text-verd"
        >
          {one.list_page.data ? `${one.count} in its data` : plural(one.count, "link")}:{" "}
          {one.titles[0]?.slice(0, 28)}…
        </button>
      ))}
    </div>
  );
}

function Adding({ names, onAdd }: { names: readonly string[]; onAdd: (name: string) => void }) {
  const [own, setOwn] = useState("");
  return (
    <div className="flex flex-wrap items-center gap-1.5 rounded-[10px] border border-dashed border-line p-2.5 text-xs text-ink3">
      Add:
      {names.map((name) => (
        <Button key={name} small onClick={() => onAdd(name)}>
          {partName(name)}
        </Button>
      ))}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          const name = own.trim().toLowerCase();
          if (name) onAdd(name);
          setOwn("");
        }}
      >
        <input
          value={own}
          aria-label="Name of an own field"
          placeholder="own field"
          pattern="[a-z][a-z0-9_ \-]*"
          onChange={(event) => setOwn(event.target.value)}
          className="w-24 rounded-[7px] border border-line bg-sheet px-2 py-0.5"
        />
      </form>
    </div>
  );
}

/** The parts of the open page: the middle of the reader's desk. */
export function Parts({ blog, state }: { blog: string; state: ReaderState }) {
  const categories = useQuery(blogQuery(blog)).data?.categories ?? [];
  const [added, setAdded] = useState<string[]>([]);
  const { document, target } = state;
  const side: Target["page"] = state.view === "article" ? "article" : "list";
  const page = state.pages[side]?.id ?? null;
  const entries = state.list.data?.entries ?? [];
  const counts = state.list.data?.counts ?? {};
  const set = (change: (before: ReaderDocument) => ReaderDocument) => state.setDocument(change);
  const present =
    side === "list"
      ? document.list_page.fields.map(({ name }) => name)
      : document.article.fields.map(({ name }) => name);
  const extra = side === "article" ? ["remove", "next_part"] : [];
  const data = side === "list" ? document.list_page.data : null;
  const setList = (change: Partial<ReaderDocument["list_page"]>) =>
    set((before) => ({ ...before, list_page: { ...before.list_page, ...change } }));
  const names = [
    ...(side === "list" && !data ? ["link"] : []),
    ...(data ? [] : present),
    ...added.filter((name) => !data && !present.includes(name) && !extra.includes(name)),
    ...(side === "list" ? ["next"] : extra),
  ];
  const missing = (side === "list" ? LIST_FIELDS : ARTICLE_FIELDS).filter((name) => !names.includes(name));
  return (
    <Scroll label="Parts" className="w-[330px] shrink-0 space-y-2.5 border-l border-line bg-chalk p-3">
      <p className="text-xs text-ink3">
        Press <b>Point</b> at a part, then click one or two examples in the page; each click adds one. Hold
        Alt, or choose “leaves out” above the page, to take out what is marked too much.
      </p>
      {side === "list" && <Proposals state={state} />}
      {data && (
        <DataCard
          data={data}
          found={entries.length}
          onChange={(changed) => setList({ data: changed })}
          onLeave={() => setList({ data: null })}
        />
      )}
      {names.map((name) => {
        const own: Target = { page: side, name };
        const filled =
          side === "list" && name !== "next" && name !== "link" && entries.length
            ? { number: counts[name] ?? 0, of: entries.length }
            : undefined;
        const active = target?.page === side && target.name === name;
        return (
          <PartCard
            key={`${side}-${name}-${selectorOf(document, own)}`}
            blog={blog}
            page={page}
            name={partName(name)}
            selector={selectorOf(document, own)}
            otherwise={side === "article" && !extra.includes(name) ? IN_ANY_WAY : "none"}
            filled={filled}
            active={active}
            others={active ? state.others : []}
            way={wayOf(document, own)}
            onWay={(change) => set((before) => withWay(before, own, change))}
            onActivate={() => state.aim(active ? null : own)}
            onSelector={(selector) => set((before) => withSelector(before, own, selector))}
          />
        );
      })}
      {!data && <Adding names={missing} onAdd={(name) => setAdded((before) => [...before, name])} />}
      {side === "list" && (
        <>
          <SectionRows
            sections={document.sections}
            categories={categories}
            found={state.pages.list?.sections ?? []}
            onChange={(sections) => set((before) => ({ ...before, sections }))}
          />
          <p className="rounded-[10px] border border-line bg-sheet p-3 text-xs">
            Reads{" "}
            <WordNumber
              label="Pages of each list"
              value={document.list_page.pages}
              min={1}
              max={50}
              onChange={(pages) => setList({ pages })}
            />{" "}
            {document.list_page.pages === 1 ? "page" : "pages"} of each list{" "}
            {document.list_page.pages > 1 && (
              <>
                (by the link to the next one, or at{" "}
                <WordText
                  label="Address of further pages"
                  value={document.list_page.pattern}
                  known={[]}
                  placeholder="an address with {page}"
                  longest={2000}
                  onChange={(pattern) => setList({ pattern })}
                />
                )
              </>
            )}
            , and at most{" "}
            <WordNumber
              label="New articles at once"
              value={document.at_most}
              min={1}
              max={200}
              onChange={(at_most) => set((before) => ({ ...before, at_most }))}
            />{" "}
            new articles at once, of{" "}
            <WordDate
              label="Oldest day"
              value={document.since ?? null}
              none="any date"
              onChange={(since) => set((before) => ({ ...before, since }))}
            />
            {document.since ? " and later" : ""}. It stops at a page on which every article is known
            {document.since ? ", and at one that is older" : ""}.
          </p>
        </>
      )}
    </Scroll>
  );
}
