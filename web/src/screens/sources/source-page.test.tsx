import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { Reading } from "@/api/sources";
import { answering, last, screenAt } from "@/testing/server";
import SourcePage from "./SourcePage";
import { CLUB, FACTS, ONE, USES } from "./samples";

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

  it("asks once what posts may carry where nobody has said so", async () => {
    const change = "PATCH /api/blogs/{blog}/sources/{key}";
    let source = { ...CLUB, right: "excerpt", right_said: false, version: 1 };
    const { user, calls } = show({
      [ONE]: () => ({ source, readings: [], saved_bytes: 0 }),
      [change]: (call: { body: object }) => {
        source = { ...source, ...call.body, right_said: true, version: 2 };
        return source;
      },
    });
    const question = await screen.findByRole("region", { name: "Rights" });
    expect(screen.getByText("Rights not said")).toBeTruthy();
    await user.click(within(question).getByRole("button", { name: "A link only" }));
    expect(last(calls, change).body).toMatchObject({ right: "link", title: "Club", version: 1 });
    await waitFor(() => expect(screen.queryByRole("region", { name: "Rights" })).toBeNull());
  });

  it("keeps rights only when something has changed", async () => {
    const change = "PATCH /api/blogs/{blog}/sources/{key}";
    const { user, calls } = show({
      [change]: (call: { body: object }) => ({ ...CLUB, ...call.body, version: 2 }),
    });
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
    const { user, calls } = show({
      [change]: (call: { body: object }) => ({ ...CLUB, ...call.body, version: 2 }),
      "GET /api/blogs/{blog}/readers": readers,
    });
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

describe("how a source is asked", () => {
  const ACCESS = "/api/blogs/{blog}/sources/{key}/access";
  const show = (answers: Record<string, unknown> = {}) => {
    const calls = answering({
      [ONE]: { source: CLUB, readings: [], saved_bytes: 0 },
      "GET /api/blogs/{blog}/sources/{key}/facts": FACTS,
      "GET /api/blogs/{blog}/sources/{key}/push": { hub: "" },
      "GET /api/blogs/{blog}/sources/{key}/older": { state: null },
      [USES]: {},
      [`GET ${ACCESS}`]: {
        headers: ["X-Api-Key"],
        user: "mira",
        any_certificate: false,
        pause_ms: 0,
        patience_s: 0,
        tries: 1,
      },
      [`PUT ${ACCESS}`]: {
        headers: [],
        user: "",
        any_certificate: false,
        pause_ms: 0,
        patience_s: 0,
        tries: 1,
      },
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
    const patience = screen.getByLabelText(/^Wait for an answer/);
    await user.clear(patience);
    await user.type(patience, "90");
    const tries = screen.getByLabelText(/^Tries in one reading/);
    await user.clear(tries);
    await user.type(tries, "3");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, `PUT ${ACCESS}`).body).toEqual({
      headers: [{ name: "X-Api-Key", value: "" }],
      user: "mira",
      password: "",
      any_certificate: true,
      pause_ms: 0,
      patience_s: 90,
      tries: 3,
    });
  });

  it("names the header that cannot be", async () => {
    const fault = { path: "headers.0.name", message: "“Host” is not a header that can be set.", hint: "" };
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
