// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { answering, last, screenAt } from "@/testing/server";
import "@/testing/render";
import { App } from "./App";

const SESSION = "GET /api/session";
const ENTER = "POST /api/session";
const MIRA = { name: "Mira", csrf_token: "t" };
const NOBODY = { name: "", csrf_token: "t" };

function show(answers: Record<string, unknown>, address = "/desk/b/word-lists") {
  const calls = answering({
    [SESSION]: MIRA,
    "GET /api/blogs": [
      { slug: "b", title: "Almanac", role: "owner" },
      { slug: "c", title: "Club page", role: "editor" },
    ],
    "GET /api/blogs/{blog}": { word_lists: [], term_tables: [] },
    "GET /api/blogs/{blog}/posts": { rows: [], total: 0, states: { held: 3 } },
    "GET /api/blogs/{blog}/comments": { rows: [], total: 0, states: { waiting: 2 } },
    "GET /api/blogs/{blog}/runs": { rows: [], total: 0, under_way: 1 },
    "GET /api/blogs/{blog}/campaign-overview": { rows: [], total: 0 },
    ...answers,
  });
  return { calls, ...screenAt(address, "*", <App />) };
}

describe("signing in", () => {
  it("comes before everything else, and leads on to what was asked for", async () => {
    const { user, calls } = show({ [SESSION]: NOBODY, [ENTER]: MIRA });
    await user.type(await screen.findByLabelText("Name"), "mira");
    await user.type(screen.getByLabelText("Password"), "secret{Enter}");
    expect(last(calls, ENTER).body).toEqual({ name: "mira", password: "secret" });
    expect(await screen.findByRole("heading", { name: "Word lists" })).toBeTruthy();
  });

  it("says what is missing and what is wrong", async () => {
    const { user } = show({
      [SESSION]: NOBODY,
      [ENTER]: new ProblemError(422, "No", "Name and password do not fit."),
    });
    await user.click(await screen.findByRole("button", { name: "Sign in" }));
    expect(await screen.findByText("Type your name.")).toBeTruthy();
    await user.type(screen.getByLabelText(/^Name/), "mira");
    await user.type(screen.getByLabelText(/^Password/), "wrong{Enter}");
    expect(await screen.findByText("Name and password do not fit.")).toBeTruthy();
  });

  it("comes over the page where a session ends by itself, and nothing on the page is lost", async () => {
    const { user, queries } = show({ [ENTER]: MIRA });
    await screen.findByRole("heading", { name: "Word lists" });
    queries.setQueryData(["session"], NOBODY);
    const dialog = await screen.findByRole("dialog", { name: "Your session has ended" });
    expect(document.querySelector("h1")?.textContent).toBe("Word lists");
    await user.type(within(dialog).getByLabelText(/^Name/), "mira");
    await user.type(within(dialog).getByLabelText(/^Password/), "secret{Enter}");
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(screen.getByRole("heading", { name: "Word lists" })).toBeTruthy();
  });

  it("ends by signing out", async () => {
    const { user } = show({ "DELETE /api/session": NOBODY });
    (await screen.findByRole("button", { name: /Mira/ })).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("menuitem", { name: "Sign out" }));
    expect(await screen.findByRole("heading", { name: "Sign in to Glyptarch" })).toBeTruthy();
  });
});

describe("the bar on top", () => {
  it("says what waits for a person and what is under way", async () => {
    show({});
    const sections = await screen.findByRole("navigation", { name: "Sections" });
    expect(await within(sections).findByText("3 held")).toBeTruthy();
    expect(within(sections).getByText("2 new")).toBeTruthy();
    expect(screen.getByText(/1 run under way/)).toBeTruthy();
  });

  it("leads from blog to blog", async () => {
    const { user, address } = show({});
    (await screen.findByRole("button", { name: /Almanac/ })).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("menuitem", { name: /^Club page/ }));
    await waitFor(() => expect(address()).toBe("/desk/c/campaigns"));
  });

  it("turns the colours, and says to which", async () => {
    const { user } = show({});
    const turn = await screen.findByRole("button", { name: /colours$/ });
    const before = turn.getAttribute("aria-label");
    await user.click(turn);
    expect(turn.getAttribute("aria-label")).not.toBe(before);
  });
});

describe("addresses", () => {
  it("lead to the first blog where none is named", async () => {
    const { address } = show({}, "/");
    await waitFor(() => expect(address()).toBe("/desk/b/today"));
  });

  it("say that there is no such screen", async () => {
    show({}, "/desk/b/nowhere");
    expect(await screen.findByText("Nothing here")).toBeTruthy();
  });

  it("say what to do where a person has no blog", async () => {
    show({ "GET /api/blogs": [] }, "/");
    expect(await screen.findByText("No blog yet")).toBeTruthy();
  });
});
