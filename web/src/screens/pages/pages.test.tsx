import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { ListPage, ReaderDocument } from "@/api/pages";
import { answering, last, screenAt } from "@/testing/server";
import { newDocument, selectorOf, wayOf, withSelector, withWay } from "./document";
import NewReader from "./NewReader";
import ReaderPage from "./ReaderPage";
import Readers from "./Readers";

const LIST: ListPage = {
  data: null,
  link: "article h2 > a",
  fields: [
    {
      name: "date",
      ways: [{ kind: "selector", selector: "time", take: "text", attribute: "", pattern: "", format: "" }],
    },
  ],
  next: "a[rel=next]",
  pattern: "",
  pages: 1,
};
const PAGE = {
  id: 7,
  url: "https://ridge.example/notes/",
  title: "Ridge notes",
  kind: "article",
  taken_at: "2026-11-24T12:00:00Z",
  words: 90,
  lists: [
    { list_page: LIST, count: 8, titles: ["A comet"] },
    { list_page: { ...LIST, link: "nav a" }, count: 4, titles: ["Sky"] },
  ],
  sections: [
    { url: "https://ridge.example/sky/", name: "Sky" },
    { url: "https://ridge.example/dome/", name: "Dome" },
  ],
  feeds: [],
};
const ENTRY = { title: "A comet", date: "2026-11-20T00:00:00Z", picture: "", price: "", excerpt: "" };
const ENTRIES = [1, 2].map((number) => ({ ...ENTRY, url: `https://ridge.example/notes/${number}` }));
const READ = {
  entries: ENTRIES,
  next_url: "https://ridge.example/notes/?page=2",
  counts: { link: 2, date: 1, next: 1 },
};
const MARKS = { places: [4, 9], samples: ["A comet", "A mirror"], error: "", at: 0 };
const DOCUMENT: ReaderDocument = { ...newDocument(PAGE.url), list_page: LIST };
const READER = {
  key: "ridge",
  name: "Ridge",
  url: PAGE.url,
  document: DOCUMENT,
  changed_at: "2026-11-24T12:00:00Z",
  mends_itself: false,
  mended_at: null,
  drifted_at: null,
  drift: [],
  tallies: [],
  page: 7,
  sources: [],
  rendered: false,
};
const OPEN = "POST /api/blogs/{blog}/pages";
const MATCH = "POST /api/blogs/{blog}/pages/{number}/match";
const TEST = "POST /api/blogs/{blog}/reader-test";
const MAKE = "POST /api/blogs/{blog}/readers";
const TAKE = "POST /api/blogs/{blog}/readers/{key}/mend";
const USUAL = {
  "GET /api/blogs/{blog}": { categories: ["Comets"], word_lists: [], term_tables: [] },
  "GET /api/blogs/{blog}/pages/{number}": PAGE,
  "POST /api/blogs/{blog}/pages/{number}/list": READ,
  [OPEN]: PAGE,
  [MATCH]: MARKS,
};

function makeNew(answers: Record<string, unknown> = {}) {
  const calls = answering({ ...USUAL, ...answers });
  return { calls, ...screenAt("/desk/b/readers/new", "/desk/:blog/readers/new", <NewReader />) };
}

async function opened(answers: Record<string, unknown> = {}) {
  const shown = makeNew(answers);
  await shown.user.type(
    screen.getByLabelText("Address of a page that lists articles"),
    "ridge.example/notes/",
  );
  await shown.user.click(screen.getByRole("button", { name: "Open the page" }));
  await screen.findByRole("heading", { name: "2 articles in the list" });
  return shown;
}

function shownReader(reader: Record<string, unknown>, answers: Record<string, unknown> = {}) {
  const calls = answering({
    ...USUAL,
    "GET /api/blogs/{blog}/readers/{key}": { ...READER, ...reader },
    ...answers,
  });
  return { calls, ...screenAt("/desk/b/readers/ridge", "/desk/:blog/readers/:key", <ReaderPage />) };
}

describe("the document of a reader", () => {
  it("keeps the other ways of an article's field behind a selector, and takes an empty one away", () => {
    const target = { page: "article", name: "title" } as const;
    const pointed = withSelector(DOCUMENT, target, "h1.t");
    expect(selectorOf(pointed, target)).toBe("h1.t");
    expect(pointed.article.fields[0]?.ways.map(({ kind }) => kind)).toEqual(["selector", "stated", "found"]);
    expect(withSelector(pointed, target, "")).toEqual(DOCUMENT);
  });

  it("keeps how a field is taken when its selector changes", () => {
    const target = { page: "list", name: "date" } as const;
    const taken = withWay(DOCUMENT, target, { take: "attribute", attribute: "datetime", pattern: "\\d+" });
    const moved = wayOf(withSelector(taken, target, "span.d"), target);
    expect(moved).toEqual({
      kind: "selector",
      selector: "span.d",
      take: "attribute",
      attribute: "datetime",
      pattern: "\\d+",
      format: "",
    });
  });

  it("takes a list's field out with its selector", () => {
    expect(withSelector(DOCUMENT, { page: "list", name: "date" }, "").list_page.fields).toEqual([]);
  });
});

describe("a page that is drawn by scripts", () => {
  const EMPTY: ListPage = { ...LIST, link: "", fields: [], next: "" };
  const NAMES = { url: "url", title: "title", date: "", picture: "", excerpt: "" };
  const DATA: ListPage = { ...EMPTY, data: { list: "held.notes", ...NAMES } };

  it("offers to let its scripts run, and goes on with what they have drawn", async () => {
    const { user, calls } = makeNew({
      [OPEN]: ({ body }: { body: { rendered: boolean } }) =>
        body.rendered ? PAGE : { ...PAGE, kind: "scripted", lists: [] },
    });
    await user.type(screen.getByLabelText("Address of a page that lists articles"), "ridge.example");
    await user.click(screen.getByRole("button", { name: "Open the page" }));
    await user.click(await screen.findByRole("button", { name: "Read it after its scripts have run" }));
    expect(last(calls, OPEN).body).toMatchObject({ rendered: true });
    const link = await screen.findByRole("region", { name: "Article link" });
    expect(within(link).getByLabelText("Selector of Article link")).toHaveProperty("value", LIST.link);
    await user.click(screen.getByRole("button", { name: "Test on sample articles" }));
    expect(last(calls, TEST).body).toMatchObject({ rendered: true });
  });

  it("shows the paths of the data that it carries, and leaves them for selectors", async () => {
    const list = "POST /api/blogs/{blog}/pages/{number}/list";
    const { user, calls } = await opened({
      [OPEN]: { ...PAGE, kind: "scripted", lists: [{ list_page: DATA, count: 2, titles: ["A comet"] }] },
    });
    const card = screen.getByRole("region", { name: "Data of the page" });
    expect(within(card).getByLabelText("Path of The list")).toHaveProperty("value", "held.notes");
    await user.type(within(card).getByLabelText("Path of Date"), "at");
    expect(last(calls, list).body).toMatchObject({ document: { list_page: { data: { date: "at" } } } });
    expect(screen.queryByRole("region", { name: "Article link" })).toBeNull();
    await user.click(within(card).getByRole("button", { name: "Use selectors" }));
    expect(screen.getByRole("region", { name: "Article link" })).toBeTruthy();
  });
});

describe("a new page reader", () => {
  it("begins with what the page proposes, and says what each part finds", async () => {
    const { calls } = await opened();
    const asked = { url: "https://ridge.example/notes/", rendered: false, hosts: [] };
    expect(last(calls, OPEN).body).toEqual(asked);
    const link = await screen.findByRole("region", { name: "Article link" });
    expect(within(link).getByLabelText("Selector of Article link")).toHaveProperty("value", LIST.link);
    expect(screen.getByRole("region", { name: "Date" }).textContent).toContain("1 of 2");
  });

  it("says why a page could not be opened", async () => {
    const { user } = makeNew({
      [OPEN]: new ProblemError(422, "No", "The site's robots.txt does not let us read it."),
    });
    await user.type(screen.getByLabelText("Address of a page that lists articles"), "https://x.example");
    await user.click(screen.getByRole("button", { name: "Open the page" }));
    expect((await screen.findByRole("alert")).textContent).toContain("robots.txt");
  });

  it("takes another list of the page, and its sections with a category each", async () => {
    const { user, calls } = await opened({ [MAKE]: { ...READER } });
    await user.click(screen.getByRole("button", { name: /^4 links/ }));
    expect(screen.getByLabelText("Selector of Article link")).toHaveProperty("value", "nav a");
    await user.click(screen.getByRole("button", { name: "Collect 2" }));
    await user.type(screen.getByLabelText("Category of Sky"), "Comets");
    await user.click(screen.getByLabelText("Read Dome"));
    await user.click(screen.getByRole("button", { name: "Save reader" }));
    const { document } = last(calls, MAKE).body as { document: typeof DOCUMENT };
    expect(document.sections).toEqual([
      { url: "https://ridge.example/sky/", name: "Sky", category: "Comets", on: true },
      { url: "https://ridge.example/dome/", name: "Dome", category: "", on: false },
    ]);
  });

  it("says in a sentence what is taken of a field, and by which pattern", async () => {
    const { user, calls } = await opened({ [MAKE]: { ...READER } });
    const date = screen.getByRole("region", { name: "Date" });
    await user.click(within(date).getByRole("button", { name: "Point" }));
    expect(date.textContent).toContain("Takes");
    await user.type(within(date).getByLabelText("Pattern for Date"), "2026");
    await user.type(within(date).getByLabelText("Format of Date"), "%Y");
    expect(screen.queryByLabelText("Format of Article link")).toBeNull();
    await user.type(screen.getByLabelText("Pages of each list"), "2");
    await user.type(
      await screen.findByLabelText("Address of further pages"),
      "https://ridge.example/{{page}",
    );
    await user.tab();
    await user.click(screen.getByRole("button", { name: "Save reader" }));
    const { document } = last(calls, MAKE).body as { document: typeof DOCUMENT };
    expect(document.list_page.fields[0]?.ways[0]).toMatchObject({ pattern: "2026", format: "%Y" });
    expect(document.list_page.pattern).toBe("https://ridge.example/{page}");
  });

  it("shows what is wrong with a typed selector, and keeps the one before", async () => {
    const { user } = await opened({ [MATCH]: { places: [], samples: [], error: "Expected a name.", at: 4 } });
    const field = screen.getByLabelText("Selector of Article link");
    await user.clear(field);
    await user.type(field, "h2 >");
    expect(within(screen.getByRole("region", { name: "Article link" })).getByRole("alert").textContent).toBe(
      "Character 4: Expected a name.",
    );
  });

  it("tests sample articles and says what is missing, odd, or no article", async () => {
    const cell = (value: string, odd = "") => ({ value, way: "found", odd });
    const rows = [
      {
        url: "https://ridge.example/notes/1",
        kind: "article",
        words: 300,
        cells: { title: cell("A comet"), date: cell("2027-01-01", "future") },
        html: "<p>x</p>",
        error: "",
        repeated: [{ key: "0123456789abcdef", text: "Letters", words: 40, kept: false }],
      },
      {
        url: "https://ridge.example/notes/2",
        kind: "consent",
        words: 12,
        cells: { title: cell("Before"), text: cell("", "short") },
        html: "",
        error: "",
        repeated: [],
      },
    ];
    const { user, calls } = await opened({ [TEST]: rows });
    await user.click(screen.getByRole("button", { name: "Test on sample articles" }));
    const [values, table] = (await screen.findAllByRole("table")) as [HTMLElement, HTMLElement];
    // A page that asks for consent is no article, and says nothing about where fields stand.
    expect(
      within(values).getByRole("row", { name: /^Title A comet by the structure/ }).textContent,
    ).toContain("1 of 1");
    expect(within(values).getByRole("row", { name: /^Author none nowhere/ }).textContent).toContain("0 of 1");
    await user.click(screen.getByRole("checkbox", { name: /Letters 40 words · 1 article/ }));
    await user.click(screen.getByRole("button", { name: "Test on sample articles" }));
    const tested = last(calls, TEST).body as { document: { article: { keep: string[] } } };
    expect(tested.document.article.keep).toEqual(["0123456789abcdef"]);
    expect(within(table).getByLabelText("in the future")).toBeTruthy();
    expect(within(table).getAllByLabelText("No article has Author")).toHaveLength(2);
    expect(within(table).getByText(/a consent page/)).toBeTruthy();
    expect(within(table).getByText("very short")).toBeTruthy();
  });
});

describe("a site with sections", () => {
  it("is tested on articles of each, and read down to a day", async () => {
    const { user, calls } = await opened({ [TEST]: [] });
    await user.click(screen.getByRole("button", { name: "Collect 2" }));
    await user.click(screen.getByRole("button", { name: "any date" }));
    await user.click(screen.getByRole("button", { name: "Test on sample articles" }));
    const body = last(calls, TEST).body as { urls: string[]; document: { since: string } };
    expect(body.urls).toEqual([]);
    expect(body.document.since).toMatch(/^\d{4}-\d\d-\d\d$/);
    expect(screen.getByText(/and at one that is older/)).toBeTruthy();
  });
});

describe("a reader whose site has changed", () => {
  const drift = [
    { part: "list.link", was: 12, now: 0 },
    { part: "article.date", was: 1, now: 0.2 },
  ];
  const mended = { ...DOCUMENT, list_page: { ...LIST, link: "a.heading" } };
  const FOUND = "GET /api/blogs/{blog}/readers/{key}/mend";

  it("says what has dropped and takes the mend with one click", async () => {
    const { user, calls } = shownReader(
      { drift, drifted_at: "2026-11-24T06:10:00Z" },
      { [FOUND]: { document: mended, found: 9, known: 10, sure: true, page: 7 }, [TAKE]: { ...READER } },
    );
    const told = await screen.findByRole("region", { name: "The layout has changed" });
    expect(told.textContent).toContain("Article link found 12, now 0");
    expect(told.textContent).toContain("Date was in 100 % of the articles, now in 20 %");
    expect((await within(told).findByText("a.heading")).textContent).toBe("a.heading");
    expect(told.textContent).toContain("9 of the 10 articles");
    await user.click(within(told).getByRole("button", { name: "Take the mend" }));
    expect(last(calls, TAKE)).toBeTruthy();
    expect(await screen.findByText(/The mend is taken/)).toBeTruthy();
  });

  it("shows the test table of a mend before it is taken", async () => {
    const { user, calls } = shownReader(
      { drift },
      { [FOUND]: { document: mended, found: 9, known: 10, sure: true, page: 7 }, [TEST]: [] },
    );
    await user.click(await screen.findByRole("button", { name: "Test it first" }));
    expect(screen.getByRole("tab", { name: "Test table" }).getAttribute("aria-selected")).toBe("true");
    const asked = { document: { list_page: { link: "a.heading" } }, urls: ENTRIES.map(({ url }) => url) };
    await waitFor(() => expect(last(calls, TEST).body).toMatchObject(asked));
  });

  it("is tried on a page of yesterday", async () => {
    const kept = [
      { id: 7, url: PAGE.url, taken_at: "2026-11-24T12:00:00Z", lists: true },
      { id: 3, url: "https://ridge.example/notes/9", taken_at: "2026-11-23T12:00:00Z", lists: false },
    ];
    const { user, calls } = shownReader({}, { "GET /api/blogs/{blog}/readers/{key}/pages": kept });
    await user.click(await screen.findByRole("button", { name: "/notes/9" }));
    expect(last(calls, "GET /api/blogs/{blog}/pages/{number}").path.number).toBe(3);
    expect(screen.getByRole("tab", { name: "Article page" }).getAttribute("aria-selected")).toBe("true");
  });

  it("offers a guess as a guess", async () => {
    shownReader({ drift }, { [FOUND]: { document: mended, found: 0, known: 0, sure: false, page: 7 } });
    expect(await screen.findByText(/This is a guess/)).toBeTruthy();
  });
});

describe("the page readers of a blog", () => {
  const ROW = {
    key: "ridge",
    name: "Ridge",
    url: PAGE.url,
    sources: 1,
    drifted_at: "2026-11-24T06:10:00Z",
    changed_at: "2026-11-24T06:10:00Z",
  };

  it("are listed with their sources; one in use is not removed", async () => {
    answering({ "GET /api/blogs/{blog}/readers": [ROW] });
    screenAt("/desk/b/readers", "/desk/:blog/readers", <Readers />);
    expect(await screen.findByText("layout has changed")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Remove" })).toHaveProperty("disabled", true);
  });

  it("say what to do where there is none", async () => {
    answering({ "GET /api/blogs/{blog}/readers": [] });
    screenAt("/desk/b/readers", "/desk/:blog/readers", <Readers />);
    expect(await screen.findByText("No page reader yet")).toBeTruthy();
  });
});
