import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  keptPage,
  listTestQuery,
  marksQuery,
  type OpenedPage,
  openPage,
  type Pointed,
  pointAt,
  type ReaderDocument,
  testReader,
} from "@/api/pages";
import { useChange } from "@/api/useChange";
import { isSingle, selectorOf, type Target, withSelector } from "./document";

export type View = "list" | "article" | "test";

const SAMPLES = 6;

/** Sample articles across a list: the first, the last, and some between. */
function spread(urls: readonly string[]): string[] {
  if (urls.length <= SAMPLES) return [...urls];
  return Array.from(
    { length: SAMPLES },
    (_, place) => urls[Math.floor((place * urls.length) / SAMPLES)] ?? "",
  );
}

/** The state of the reader's desk: the edited document, the open pages, and the picked part. */
export function useReader(
  blog: string,
  document: ReaderDocument,
  setDocument: (change: (before: ReaderDocument) => ReaderDocument) => void,
  listPage: OpenedPage | null,
  renderedFirst: boolean,
) {
  const queries = useQueryClient();
  const [rendered, setRendered] = useState(renderedFirst);
  const [view, setView] = useState<View>("list");
  const [pages, setPages] = useState<{ list: OpenedPage | null; article: OpenedPage | null }>({
    list: listPage,
    article: null,
  });
  const [target, setTarget] = useState<Target | null>(null);
  const [examples, setExamples] = useState<number[]>([]);
  const [without, setWithout] = useState<number[]>([]);
  // Whether a click leaves out what it points at.
  const [leavesOut, setLeavesOut] = useState(false);
  const [others, setOthers] = useState<readonly Pointed[]>([]);

  const page = view === "article" ? pages.article : pages.list;
  const list = useQuery({
    ...listTestQuery(blog, pages.list?.id ?? 0, document),
    enabled:
      pages.list !== null &&
      (Boolean(document.list_page.link || document.list_page.data) || pages.list.kind === "sitemap"),
  });
  const selector = target ? selectorOf(document, target) : "";
  const marks = useQuery({
    ...marksQuery(blog, page?.id ?? 0, selector),
    enabled: page !== null && Boolean(selector),
  });

  function show(opened: OpenedPage, as: "list" | "article") {
    setPages((before) => ({ ...before, [as]: opened }));
    setView(as);
  }
  const opening = useChange(
    ({ url, scripts = rendered }: { url: string; as: "list" | "article"; scripts?: boolean }) =>
      openPage(blog, url, scripts),
    {
      onDone: (opened, { as, scripts }) => {
        show(opened, as);
        const best = opened.lists[0];
        // Without the scripts, no article could be chosen.
        if (scripts && best) setDocument((before) => ({ ...before, list_page: best.list_page }));
      },
    },
  );
  const reopening = useChange(
    ({ number }: { number: number; as: "list" | "article" }) => keptPage(blog, number),
    { onDone: (opened, { as }) => show(opened, as) },
  );
  const pointing = useChange(
    (asked: { examples: number[]; without: number[]; only: boolean; page: number }) =>
      pointAt(blog, asked.page, asked.examples, asked.without, asked.only),
    {
      onDone: (found) => {
        setOthers(found);
        const best = found[0];
        if (best && target) setDocument((before) => withSelector(before, target, best.selector));
      },
    },
  );
  const testing = useChange(({ urls, by = document }: { urls: readonly string[]; by?: ReaderDocument }) =>
    testReader(blog, by, [...urls], rendered),
  );

  function aim(next: Target | null) {
    setTarget(next);
    setExamples([]);
    setWithout([]);
    setOthers([]);
    setLeavesOut(false);
    if (next && view !== "test" && next.page !== view) setView(next.page);
  }

  /** Adds an example, or leaves out what a selector takes too much. Only leaving out takes anything away. */
  function point(place: number, out = leavesOut) {
    if (!target || !page) return;
    const single = isSingle(target);
    const others = (places: readonly number[]) => places.filter((one) => one !== place);
    let nextExamples = single ? [place] : [...others(examples), place];
    let nextWithout = others(without);
    if (out && !single) {
      nextExamples = others(examples);
      nextWithout = [...others(without), place];
    }
    if (!nextExamples.length) return;
    setExamples(nextExamples);
    setWithout(nextWithout);
    pointing.mutate({
      examples: nextExamples.slice(-10),
      without: nextWithout.slice(-10),
      only: single,
      page: page.id,
    });
  }

  /** Opens the list again after its scripts have run; the articles follow. */
  function render() {
    setRendered(true);
    opening.mutate({ url: document.url, as: "list", scripts: true });
  }

  /** Loads another document and shows its result on sample articles. */
  async function tryOut(other: ReaderDocument) {
    setDocument(() => other);
    setView("test");
    const listed = pages.list && (await queries.fetchQuery(listTestQuery(blog, pages.list.id, other)));
    const found = listed?.entries.map(({ url }) => url) ?? [];
    const bySection = other.sections.some(({ on }) => on);
    if (found.length) testing.mutate({ urls: bySection ? [] : spread(found), by: other });
  }

  // The server takes some articles of each section.
  const hasSections = document.sections.some(({ on }) => on);
  const urls = list.data?.entries.map(({ url }) => url) ?? [];
  return {
    document,
    setDocument,
    view,
    setView,
    pages,
    page,
    list,
    target,
    aim,
    marks: marks.data,
    others,
    point,
    leavesOut,
    setLeavesOut,
    canLeaveOut: target !== null && !isSingle(target),
    pointing,
    opening,
    rendered,
    setRendered,
    render,
    reopening,
    testing,
    tryOut,
    samples: hasSections ? [] : spread(urls),
    canTest: hasSections || urls.length > 0,
    firstArticle: urls[0],
  };
}

export type ReaderState = ReturnType<typeof useReader>;
