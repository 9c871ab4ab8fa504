// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { Checked, Reading, Source } from "@/api/sources";
import { pick } from "@/testing/render";
import { answering, last, screenAt } from "@/testing/server";
import AddSources from "./AddSources";
import SourcePage from "./SourcePage";
import Sources from "./Sources";

const LIST = "GET /api/blogs/{blog}/sources";
const ONE = "GET /api/blogs/{blog}/sources/{key}";
const USES = "GET /api/blogs/{blog}/campaigns-by-source";
const CHECK = "POST /api/blogs/{blog}/sources/check";
const ADD = "POST /api/blogs/{blog}/new-source";

const CLUB: Source = {
  key: "club",
  url: "https://club.example/feed",
  title: "Club",
  link: "https://club.example/",
  format: "RSS 2.0",
  items: 40,
  days: [0, 1, 2],
  read_at: "2026-11-24T12:00:00Z",
  read_error: "",
  read_detail: "",
  right: "full",
  right_words: 100,
  attribution: "",
  keyword: "",
  reads_pages: false,
  full_text_words: 0,
  text_reader: "",
  text_selector: "",
  rendered: false,
  rendered_hosts: [],
  health: "ok",
  health_data: {},
  failing_since: null,
  next_read_at: null,
  labels: [],
  paused: false,
  any_certificate: false,
  former_url: "",
} as unknown as Source;

const FACTS = {
  items: 40,
  fields: { title: 40 },
  words: 120,
  categories: [{ name: "Sky", count: 30 }],
  hashtags: [],
};

const FEED = {
  address: "https://club.example/feed",
  url: "https://club.example/feed",
  title: "Club",
  format: "RSS 2.0",
  items: 2,
  milliseconds: 40,
  samples: [],
  fields: {},
  warnings: [],
  leads_to: [],
  known_as: "",
  error: "",
  detail: "",
} as unknown as Checked;

describe("the list of sources", () => {
  const show = (rows: Source[]) => {
    const calls = answering({
      [LIST]: { rows, total: rows.length, labels: ["Sky"] },
      [USES]: { club: [{ slug: "sky", name: "Sky" }] },
    });
    return { calls, ...screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />) };
  };

  it("says how each reads and who uses it", async () => {
    const failing = { health: "failing", health_data: { failures: 2 }, read_detail: "404 there" } as const;
    show([CLUB, { ...CLUB, key: "wire", title: "Wire", ...failing }]);
    const [club, wire] = await screen.findAllByRole("listitem");
    expect(club?.textContent).toContain("40 items");
    expect(await within(club as HTMLElement).findByText("used by Sky")).toBeTruthy();
    expect(wire?.textContent).toContain("404 there");
    expect(wire?.textContent).toContain("used by no campaign");
  });

  it("asks the server when a name is typed, after a pause", async () => {
    const { user, calls } = show([CLUB]);
    await user.type(await screen.findByLabelText("Find a source"), "clu");
    await waitFor(() => expect(last(calls, LIST).query).toMatchObject({ search: "clu", offset: 0 }));
  });

  it("is narrowed to those of one health, and put in order by it", async () => {
    const { user, calls } = show([CLUB]);
    await screen.findByText("Club");
    await pick(user, "Health", "quiet");
    await pick(user, "Order", "those that need you first");
    await waitFor(() => expect(last(calls, LIST).query).toMatchObject({ health: "quiet", sort: "health" }));
  });

  it("leads to adding the first", async () => {
    show([]);
    expect(await screen.findByText("No source yet")).toBeTruthy();
    expect(screen.getAllByRole("link", { name: "Add feeds" })).toHaveLength(2);
  });
});

describe("a list of feeds as OPML", () => {
  const READ = "POST /api/blogs/{blog}/opml";
  const given = (answer: unknown) => {
    const calls = answering({ [READ]: answer });
    return { calls, ...screenAt("/desk/b/sources/add", "/desk/:blog/sources/add", <AddSources />) };
  };
  const file = () => new File(["<opml/>"], "feeds.opml", { type: "text/x-opml" });

  it("fills the field with the feeds that are no sources yet", async () => {
    const listed = [
      { url: "https://club.example/feed", title: "Club", folder: "", known_as: "Club" },
      { url: "https://wire.example/feed", title: "Wire", folder: "Sky", known_as: "" },
    ];
    const { user, calls } = given(listed);
    const field = screen.getByLabelText("Addresses of feeds or sites") as HTMLTextAreaElement;
    await user.type(field, "https://mine.example/");
    await user.upload(screen.getByLabelText("OPML file"), file());
    expect(await screen.findByText(/2 feeds in feeds.opml, 1 of them read already/)).toBeTruthy();
    expect(field.value).toBe("https://mine.example/\nhttps://wire.example/feed");
    expect(last(calls, READ).body).toEqual({ content: btoa("<opml/>") });
  });

  it("says why a file is no list, and keeps what was typed", async () => {
    const { user } = given(new ProblemError(422, "No", "This is no OPML."));
    const field = screen.getByLabelText("Addresses of feeds or sites") as HTMLTextAreaElement;
    await user.type(field, "https://mine.example/");
    await user.upload(screen.getByLabelText("OPML file"), file());
    expect(await screen.findByText("This is no OPML.")).toBeTruthy();
    expect(field.value).toBe("https://mine.example/");
  });
});

describe("adding feeds", () => {
  const show = (answers: Record<string, unknown>) => {
    const calls = answering(answers);
    return { calls, ...screenAt("/desk/b/sources/add", "/desk/:blog/sources/add", <AddSources />) };
  };
  const field = () => screen.getByLabelText("Addresses of feeds or sites");

  it("reads each address of a pasted text once, however they are parted", async () => {
    const { user, calls } = show({ [CHECK]: [FEED] });
    await user.type(field(), "a.example, b.example\na.example");
    await user.click(screen.getByRole("button", { name: "Read 2 addresses" }));
    const asked = calls.filter((call) => call.what === CHECK).map((call) => call.body);
    expect(asked).toEqual([{ addresses: ["a.example"] }, { addresses: ["b.example"] }]);
  });

  it("keeps a feed under the name that it is given", async () => {
    const { user, calls } = show({ [CHECK]: [FEED], [ADD]: { key: "club", title: "Our club", captured: 2 } });
    await user.type(field(), "club.example");
    await user.click(screen.getByRole("button", { name: "Read it" }));
    const name = await screen.findByLabelText("Name");
    await user.clear(name);
    await user.type(name, "Our club");
    await user.click(screen.getByRole("button", { name: "Add this feed" }));
    expect(last(calls, ADD).body).toEqual({ url: FEED.url, title: "Our club" });
    const link = await screen.findByRole("link", { name: "New campaign on it" });
    expect(link.getAttribute("href")).toBe("/desk/b/campaigns/new?source=club");
  });

  it("says what went wrong, to what, and reads it again", async () => {
    const failed = { ...FEED, error: "gone", detail: "club.example answers with 404. Look at the address." };
    const { user, calls } = show({ [CHECK]: [failed] });
    await user.type(field(), "club.example");
    await user.click(screen.getByRole("button", { name: "Read it" }));
    expect((await screen.findByRole("alert")).textContent).toContain("answers with 404");
    await user.click(screen.getByRole("button", { name: "Try again" }));
    expect(calls.filter((call) => call.what === CHECK)).toHaveLength(2);
  });

  it("follows a page to the feeds it names", async () => {
    const link = { url: "https://club.example/atom", title: "News", format: "Atom" };
    const { user, calls } = show({ [CHECK]: [{ ...FEED, leads_to: [link] }] });
    await user.type(field(), "club.example");
    await user.click(screen.getByRole("button", { name: "Read it" }));
    await user.click(await screen.findByRole("button", { name: "Read this one" }));
    expect(last(calls, CHECK).body).toEqual({ addresses: [link.url] });
  });

  it("does not offer what is read already", async () => {
    const { user } = show({ [CHECK]: [{ ...FEED, known_as: "Meadowlark" }] });
    await user.type(field(), "club.example");
    await user.click(screen.getByRole("button", { name: "Read it" }));
    expect(await screen.findByText("This source exists already: “Meadowlark”.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Add this feed" })).toBeNull();
  });
});

describe("a pattern of addresses", () => {
  const PATTERN = {
    id: 4,
    name: "Films",
    address: "https://film.example/feed?channel={channel}",
    place: "channel",
  };

  it("is filled with a list of values, and gives addresses to be read", async () => {
    answering({ "GET /api/blogs/{blog}/address-patterns": [PATTERN] });
    const { user } = screenAt("/desk/b/sources/add", "/desk/:blog/sources/add", <AddSources />);
    await user.click(screen.getByRole("button", { name: "Fill a pattern" }));
    await user.type(await screen.findByLabelText(/^Values for channel/), "ridge films,dome{Enter}dome");
    expect(screen.getByText(/channel=ridge%20films/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Take 2 addresses" }));
    expect(screen.getByLabelText("Addresses of feeds or sites")).toHaveProperty(
      "value",
      "https://film.example/feed?channel=ridge%20films\nhttps://film.example/feed?channel=dome",
    );
  });

  it("is kept by its name", async () => {
    const keep = "POST /api/blogs/{blog}/address-patterns";
    const calls = answering({ "GET /api/blogs/{blog}/address-patterns": [], [keep]: PATTERN });
    const { user } = screenAt("/desk/b/sources/add", "/desk/:blog/sources/add", <AddSources />);
    await user.click(screen.getByRole("button", { name: "Fill a pattern" }));
    await user.type(screen.getByLabelText("Its name"), "Films");
    await user.type(screen.getByLabelText(/^Address with the name/), "https://film.example/{{channel}");
    await user.click(screen.getByRole("button", { name: "Keep the pattern" }));
    expect(last(calls, keep).body).toEqual({ name: "Films", address: "https://film.example/{channel}" });
  });
});

describe("the page of a source", () => {
  const READING: Reading = {
    at: "2026-11-24T12:00:00Z",
    milliseconds: 40,
    not_modified: false,
    found: 10,
    fresh: 2,
    error: "",
    detail: "",
    warnings: [],
  } as unknown as Reading;
  const show = (answers: Record<string, unknown> = {}) => {
    const calls = answering({
      [ONE]: { source: CLUB, readings: [READING], saved_bytes: 1_500_000 },
      "GET /api/blogs/{blog}/sources/{key}/facts": FACTS,
      "GET /api/blogs/{blog}/sources/{key}/push": { hub: "" },
      "GET /api/blogs/{blog}/sources/{key}/older": { state: null },
      [USES]: {},
      ...answers,
    });
    return { calls, ...screenAt("/desk/b/sources/club", "/desk/:blog/sources/:key", <SourcePage />) };
  };

  it("lists what each reading gave", async () => {
    show();
    expect(await screen.findByText("10 items in the feed, 2 new")).toBeTruthy();
  });

  it("reads now and says how it went", async () => {
    const read = "POST /api/blogs/{blog}/sources/{key}/read";
    const { user } = show({ [read]: { ...READING, error: "timeout", detail: "No answer in ten seconds." } });
    await user.click(await screen.findByRole("button", { name: "Read now" }));
    expect(await screen.findByText("No answer in ten seconds.")).toBeTruthy();
  });

  it("keeps rights only when something has changed", async () => {
    const change = "PATCH /api/blogs/{blog}/sources/{key}";
    const { user, calls } = show({ [change]: {} });
    await screen.findByLabelText("Attribution line");
    expect(screen.queryByRole("button", { name: "Keep" })).toBeNull();
    await user.type(screen.getByLabelText("Attribution line"), "By the club");
    await user.click(screen.getByRole("button", { name: "Keep" }));
    expect(last(calls, change).body).toMatchObject({
      attribution: "By the club",
      right: "full",
      title: "Club",
    });
    expect(await screen.findByText(/applies to posts made from now on/)).toBeTruthy();
  });

  it("chooses where the text of its pages stands, and whether their scripts run", async () => {
    const change = "PATCH /api/blogs/{blog}/sources/{key}";
    const readers = [{ key: "ridge", name: "Ridge", url: "", sources: 0, drifted_at: null, changed_at: "" }];
    const { user, calls } = show({ [change]: {}, "GET /api/blogs/{blog}/readers": readers });
    const choose = async (label: string, option: string) => {
      await user.click(await screen.findByLabelText(label));
      await user.click(await screen.findByRole("option", { name: option }));
    };
    await choose("Full text", "give the full text");
    await choose("Where the text stands", "found at the selector");
    await user.clear(screen.getByLabelText("Selector of the text"));
    await user.type(screen.getByLabelText("Selector of the text"), "div.words");
    await choose("Scripts of pages", "after their scripts have run");
    await user.type(screen.getByLabelText("Other hosts"), "cdn.example img.example");
    await user.click(screen.getByRole("button", { name: "Keep" }));
    const hosts = ["cdn.example", "img.example"];
    expect(last(calls, change).body).toMatchObject({
      full_text_words: 50,
      rendered: true,
      rendered_hosts: hosts,
    });
    await choose("Where the text stands", "read by “Ridge”");
    await user.click(screen.getByRole("button", { name: "Keep" }));
    expect(last(calls, change).body).toMatchObject({ text_reader: "ridge", text_selector: "" });
  });

  it("says what became of its pages, and asks those that were not", async () => {
    const texts = "GET /api/blogs/{blog}/sources/{key}/texts";
    const ask = "POST /api/blogs/{blog}/sources/{key}/texts";
    const found = { outcomes: { taken: 3, paywall: 1 }, waiting: 4, titles: ["A comet"], under_way: false };
    let now = found;
    const { user, calls } = show({
      [ONE]: { source: { ...CLUB, full_text_words: 50 }, readings: [READING], saved_bytes: 0 },
      "GET /api/blogs/{blog}/readers": [],
      [texts]: () => now,
      [ask]: () => {
        now = { ...found, waiting: 2, under_way: true };
        return now;
      },
    });
    expect(await screen.findByText(/3 have the text of their page, 1 are behind a pay-wall/)).toBeTruthy();
    expect(screen.getByText(/pages of 4 items were not asked yet, the newest is “A comet”/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Ask them now" }));
    expect(last(calls, ask).body).toEqual({ again: false });
    expect(await screen.findByText("2 pages to go, 4 asked")).toBeTruthy();
    expect(screen.getByLabelText("Pages asked")).toHaveProperty("value", 4);
  });

  it("is removed after a question, and leads back to the list", async () => {
    const remove = "DELETE /api/blogs/{blog}/sources/{key}";
    const { user, address } = show({ [remove]: null });
    await user.click(await screen.findByRole("button", { name: "Remove" }));
    expect(screen.getByRole("alertdialog").textContent).toContain(
      "Its items and the posts made from them stay",
    );
    await user.click(screen.getByRole("button", { name: "Remove source" }));
    await waitFor(() => expect(address()).toBe("/desk/b/sources"));
  });

  it("says that there is no such source", async () => {
    show({ [ONE]: new ProblemError(404, "Not found", "This blog has no source named “club”.") });
    expect((await screen.findByRole("alert")).textContent).toContain("no source named");
  });
});

describe("several sources at once", () => {
  const TOGETHER = "POST /api/blogs/{blog}/sources-together";

  it("are labelled, paused and exported", async () => {
    const calls = answering({
      [LIST]: { rows: [CLUB, { ...CLUB, key: "wire", title: "Wire" }], total: 2, labels: ["Sky"] },
      [USES]: {},
      [TOGETHER]: { changed: 2 },
    });
    const { user } = screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />);
    await user.click(await screen.findByRole("checkbox", { name: "Pick Club" }));
    await user.click(screen.getByRole("checkbox", { name: "Pick Wire" }));
    expect(screen.getByText("2 sources picked")).toBeTruthy();
    await user.type(screen.getByLabelText("Label", { selector: "input" }), "Near");
    await user.click(screen.getByRole("button", { name: "Add label" }));
    expect(last(calls, TOGETHER).body).toEqual({ keys: ["club", "wire"], change: "label", label: "Near" });
    expect(await screen.findByText("2 sources labelled.")).toBeTruthy();
    const exported = screen.getAllByRole("link", { name: "As OPML" }).map((one) => one.getAttribute("href"));
    expect(exported).toContain("/api/blogs/b/opml?chosen=club%2Cwire");
  });

  it("say what is special about them", async () => {
    const odd = { ...CLUB, labels: ["Near"], paused: true, any_certificate: true };
    answering({ [LIST]: { rows: [odd], total: 1, labels: ["Near"] }, [USES]: {} });
    screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />);
    const row = within(await screen.findByRole("list", { name: "Sources" }));
    for (const text of ["Near", "Paused", "Any certificate"]) expect(row.getByText(text)).toBeTruthy();
  });
});

describe("how a source is asked", () => {
  const ACCESS = "/api/blogs/{blog}/sources/{key}/access";
  const show = (answers: Record<string, unknown> = {}) => {
    const calls = answering({
      [ONE]: { source: CLUB, readings: [], saved_bytes: 0 },
      "GET /api/blogs/{blog}/sources/{key}/facts": FACTS,
      "GET /api/blogs/{blog}/sources/{key}/push": { hub: "" },
      "GET /api/blogs/{blog}/sources/{key}/older": { state: null },
      [USES]: {},
      [`GET ${ACCESS}`]: { headers: ["X-Api-Key"], user: "mira", any_certificate: false, pause_ms: 0 },
      [`PUT ${ACCESS}`]: { headers: [], user: "", any_certificate: false, pause_ms: 0 },
      ...answers,
    });
    return { calls, ...screenAt("/desk/b/sources/club", "/desk/:blog/sources/:key", <SourcePage />) };
  };

  it("keeps secrets that are not typed anew, and shows none", async () => {
    const { user, calls } = show();
    await user.click(await screen.findByRole("button", { name: "How it is asked" }));
    const value = (await screen.findByLabelText("Value of header 1")) as HTMLInputElement;
    expect([value.value, value.placeholder]).toEqual(["", "kept"]);
    await user.click(screen.getByRole("checkbox", { name: /^Accept its certificate/ }));
    expect(screen.getByText(/can then read and change what it sends/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, `PUT ${ACCESS}`).body).toEqual({
      headers: [{ name: "X-Api-Key", value: "" }],
      user: "mira",
      password: "",
      any_certificate: true,
      pause_ms: 0,
    });
  });

  it("names the header that cannot be", async () => {
    const fault = { path: "headers.0.name", message: "“Host” is no header that can be set.", hint: "" };
    const { user } = show({ [`PUT ${ACCESS}`]: new ProblemError(422, "No", fault.message, [fault]) });
    await user.click(await screen.findByRole("button", { name: "How it is asked" }));
    await user.click(await screen.findByRole("button", { name: "Save" }));
    expect(await screen.findAllByText(fault.message)).toHaveLength(1);
  });

  it("is paused and resumed", async () => {
    const { user, calls } = show({ "POST /api/blogs/{blog}/sources-together": { changed: 1 } });
    await user.click(await screen.findByRole("button", { name: "Pause" }));
    const { body } = last(calls, "POST /api/blogs/{blog}/sources-together");
    expect(body).toEqual({ keys: ["club"], change: "pause", label: "" });
  });

  it("shows what it brings", async () => {
    show();
    const facts = within(await screen.findByRole("region", { name: "What it brings" }));
    expect(facts.getByText("120 words on average")).toBeTruthy();
    expect(facts.getByText("Sky")).toBeTruthy();
  });
});

describe("older items", () => {
  const OLDER = "/api/blogs/{blog}/sources/{key}/older";
  const show = (answers: Record<string, unknown>) => {
    const calls = answering({
      [ONE]: { source: CLUB, readings: [], saved_bytes: 0 },
      "GET /api/blogs/{blog}/sources/{key}/facts": FACTS,
      "GET /api/blogs/{blog}/sources/{key}/push": { hub: "" },
      [`GET ${OLDER}`]: { state: null },
      [USES]: {},
      ...answers,
    });
    return { calls, ...screenAt("/desk/b/sources/club", "/desk/:blog/sources/:key", <SourcePage />) };
  };

  it("are counted before they are read", async () => {
    const { user, calls } = show({
      [`POST ${OLDER}/count`]: { pages: 3, items: 60, oldest: null, more: false, why_ended: "" },
      [`POST ${OLDER}`]: { state: "waiting", page: 0, found: 0, fresh: 0 },
    });
    await user.click(await screen.findByRole("button", { name: "Older items" }));
    const read = screen.getByRole("button", { name: "Read them" });
    expect(read.hasAttribute("disabled")).toBe(true);
    await user.type(screen.getByLabelText("Back to"), "2026-01-01");
    await user.click(screen.getByRole("button", { name: "Count them" }));
    expect(await screen.findByText(/^60 items on 3 pages/)).toBeTruthy();
    await user.click(read);
    expect(last(calls, `POST ${OLDER}`).body).toEqual({ floor: "2026-01-01", pattern: "" });
  });

  it("say how far they are, and are stopped", async () => {
    const { user, calls } = show({
      [`GET ${OLDER}`]: { state: "walking", page: 2, found: 40, fresh: 38, why_ended: "" },
      [`DELETE ${OLDER}`]: { state: "walking" },
    });
    expect(await screen.findByText(/2 pages read, 40 items, 38 of them new/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Stop" }));
    expect(last(calls, `DELETE ${OLDER}`).path).toEqual({ blog: "b", key: "club" });
  });
});

describe("taking one page", () => {
  const TAKE = "POST /api/blogs/{blog}/taken-pages";
  const LISTED = { "GET /api/blogs/{blog}/sources": { rows: [], total: 0, labels: [] } };

  async function asked(answer: unknown) {
    const calls = answering({ ...LISTED, "GET /api/blogs/{blog}/campaigns-by-source": {}, [TAKE]: answer });
    const { user } = screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />);
    await user.click(await screen.findByRole("button", { name: "Take one page" }));
    await user.type(screen.getByLabelText(/^Address of the page/), "https://a.example/1");
    await user.click(screen.getByRole("button", { name: "Take it" }));
    return calls;
  }

  it("says what was taken and leads on to a campaign", async () => {
    const taken = {
      title: "A comet",
      words: 300,
      source: "by-hand",
      source_title: "Pages taken by hand",
      reader: "Ridge",
      fresh: true,
    };
    const calls = await asked(taken);
    expect((await screen.findByRole("status")).textContent).toContain(
      "Taken: “A comet”, 300 words, read by “Ridge”.",
    );
    expect(last(calls, TAKE).body).toEqual({ url: "https://a.example/1" });
    const on = screen.getByRole("link", { name: "New campaign on Pages taken by hand" });
    expect(on.getAttribute("href")).toBe("/desk/b/campaigns/new?source=by-hand");
  });

  it("says why a page was not taken", async () => {
    await asked(new ProblemError(422, "No", "It is behind a pay-wall."));
    expect((await screen.findByRole("alert")).textContent).toContain("pay-wall");
  });
});
