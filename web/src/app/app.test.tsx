import { focusManager } from "@tanstack/react-query";
import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { Task } from "@/api/tasks";
import { answering, last, screenAt } from "@/testing/server";
import { App } from "./App";

const SESSION = "GET /api/session";
function task(parts: Partial<Task> = {}): Task {
  return {
    id: 7,
    kind: "run",
    subject: "Night sky",
    path: "runs/12",
    state: "working",
    stop_asked: false,
    can_stop: true,
    phase: "deciding",
    done: 10,
    total: 40,
    seconds_left: 75,
    by: "Mira",
    asked_at: "2026-11-24T12:00:00Z",
    begun_at: "2026-11-24T12:00:00Z",
    ended_at: null,
    failure: "",
    ...parts,
  };
}

const ENTER = "POST /api/session";
const MIRA = { name: "Mira", user: "mira", csrf_token: "t", version: "1.2.3" };
const NOBODY = { name: "", user: "", csrf_token: "t", version: "1.2.3" };

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
    "GET /api/blogs/{blog}/tasks": [task()],
    "GET /api/blogs/{blog}/campaign-overview": { rows: [], total: 0 },
    ...answers,
  });
  return { calls, ...screenAt(address, "*", <App />) };
}

describe("a platform that refused a sign-in", () => {
  it("leads back with its reason, which is said once", async () => {
    const { address } = show({ [SESSION]: MIRA }, "/desk/b/word-lists?refused=You+did+not+allow+it+there.");
    expect(await screen.findByText("You did not allow it there.")).toBeTruthy();
    await waitFor(() => expect(address()).toBe("/desk/b/word-lists"));
  });
});

describe("signing in", () => {
  it("comes before everything else, and leads on to what was asked for", async () => {
    const { user, calls } = show({ [SESSION]: NOBODY, [ENTER]: MIRA });
    await user.type(await screen.findByLabelText("Name"), "mira");
    await user.type(screen.getByLabelText("Password"), "secret{Enter}");
    expect(last(calls, ENTER).body).toEqual({ name: "mira", password: "secret", code: "" });
    expect(await screen.findByRole("heading", { name: "Word lists" })).toBeTruthy();
  });

  it("asks for the code of a second factor only where one is in use", async () => {
    const asked = new ProblemError(422, "No", "Type the code that your device shows.", [
      { path: "code", message: "Type the code that your device shows.", hint: "" },
    ]);
    let tries = 0;
    const { user, calls } = show({
      [SESSION]: NOBODY,
      [ENTER]: () => {
        tries += 1;
        return tries === 1 ? asked : MIRA;
      },
    });
    await user.type(await screen.findByLabelText("Name"), "mira");
    expect(screen.queryByLabelText(/^Code/)).toBeNull();
    await user.type(screen.getByLabelText("Password"), "secret{Enter}");
    await user.type(await screen.findByLabelText(/^Code/), "123456{Enter}");
    expect(last(calls, ENTER).body).toEqual({ name: "mira", password: "secret", code: "123456" });
    expect(await screen.findByRole("heading", { name: "Word lists" })).toBeTruthy();
  });

  it("sends a link to who has forgotten the password, without saying whether the address is known", async () => {
    const { user, calls } = show({ [SESSION]: NOBODY, "POST /api/password-resets": null });
    await user.click(await screen.findByRole("button", { name: "Forgot your password?" }));
    await user.type(screen.getByLabelText(/^Mail address/), "mira@club.example{Enter}");
    expect(await screen.findByText(/If somebody here has the address mira@club.example/)).toBeTruthy();
    expect(last(calls, "POST /api/password-resets").body).toEqual({ email: "mira@club.example" });
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
    expect(within(dialog).getByText(/You were signed in as mira \(Mira\)/)).toBeTruthy();
    expect((within(dialog).getByLabelText(/^Name/) as HTMLInputElement).value).toBe("mira");
    await user.type(within(dialog).getByLabelText(/^Password/), "secret{Enter}");
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(screen.getByRole("heading", { name: "Word lists" })).toBeTruthy();
  });

  it("ends by signing out", async () => {
    let asksMeanwhile = true;
    const { user } = show({
      "DELETE /api/session": () => {
        asksMeanwhile = focusManager.isFocused();
        return NOBODY;
      },
    });
    (await screen.findByRole("button", { name: /Mira/ })).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("menuitem", { name: /^Sign out/ }));
    expect(await screen.findByRole("heading", { name: "Sign in to Glyptarch" })).toBeTruthy();
    // What is asked again every few seconds would be refused while the session ends.
    expect(asksMeanwhile).toBe(false);
    expect(focusManager.isFocused()).toBe(true);
  });

  it("stays where signing out fails", async () => {
    const { user } = show({ "DELETE /api/session": new ProblemError(503, "Down", "The server is busy.") });
    (await screen.findByRole("button", { name: /Mira/ })).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("menuitem", { name: /^Sign out/ }));
    expect(await screen.findByText("The server is busy.")).toBeTruthy();
    expect(focusManager.isFocused()).toBe(true);
  });
});

describe("the bar on top", () => {
  it("lists what is under way, and stops it", async () => {
    const asked = task({ stop_asked: true });
    let tasks = [
      task(),
      task({ id: 8, kind: "deletion", subject: "Old", path: "", can_stop: false, total: 0 }),
    ];
    const { user, calls, address } = show({
      "GET /api/blogs/{blog}/tasks": () => tasks,
      "POST /api/blogs/{blog}/tasks/{number}/stop": () => {
        tasks = [asked];
        return asked;
      },
    });
    await user.click(await screen.findByRole("button", { name: "2 under way" }));
    const panel = within(await screen.findByRole("dialog", { name: "What goes on" }));
    expect(panel.getByText("10 of 40 items decided · about 1 min left · by Mira")).toBeTruthy();
    expect(panel.getByRole("progressbar", { name: "Run of Night sky" })).toBeTruthy();
    expect(panel.getAllByRole("button", { name: /^Stop/ }).length).toBe(1);
    await user.click(panel.getByRole("button", { name: "Stop: Run of Night sky" }));
    expect(last(calls, "POST /api/blogs/{blog}/tasks/{number}/stop").path).toEqual({ blog: "b", number: 7 });
    expect(await panel.findByText(/^stopping after this batch/)).toBeTruthy();
    await user.click(panel.getByRole("link", { name: "Run of Night sky" }));
    await waitFor(() => expect(address()).toBe("/desk/b/runs/12"));
  });

  it("asks again after any change, which may have begun a task", async () => {
    let tasks: Task[] = [];
    const { queries } = show({ "GET /api/blogs/{blog}/tasks": () => tasks });
    await screen.findByRole("heading", { name: "Word lists" });
    expect(screen.queryByText(/under way/)).toBeNull();
    tasks = [task()];
    await queries
      .getMutationCache()
      .build(queries, { mutationFn: async () => null })
      .execute(undefined);
    expect(await screen.findByText("1 under way")).toBeTruthy();
  });

  it("says that something failed, and why, after its end", async () => {
    const failed = task({
      state: "failed",
      ended_at: "2026-11-24T12:05:00Z",
      can_stop: false,
      failure: "The rules do not hold.",
    });
    const { user } = show({
      "GET /api/blogs/{blog}/tasks": [failed, task({ ...failed, id: 6, state: "done", failure: "" })],
    });
    await user.click(await screen.findByRole("button", { name: "1 failed" }));
    expect(await screen.findByText("The rules do not hold.")).toBeTruthy();
    expect(screen.getByText("Nothing is under way.")).toBeTruthy();
  });

  it("says what waits for a person and what is under way", async () => {
    show({});
    const sections = await screen.findByRole("navigation", { name: "Sections" });
    expect(await within(sections).findByText("5")).toBeTruthy();
    expect(screen.getByText(/1 under way/)).toBeTruthy();
  });

  it("leads from blog to blog", async () => {
    const { user, address } = show({});
    (await screen.findByRole("button", { name: /Almanac/ })).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("menuitem", { name: /^Club page/ }));
    await waitFor(() => expect(address()).toBe("/desk/c/today"));
  });

  it("turns the colours, and says to which", async () => {
    const { user } = show({});
    const turn = await screen.findByRole("button", { name: /colours$/ });
    const before = turn.getAttribute("aria-label");
    await user.click(turn);
    expect(turn.getAttribute("aria-label")).not.toBe(before);
  });
});

describe("the finder", () => {
  const FOUND = {
    "GET /api/blogs/{blog}/campaign-overview": { rows: [{ slug: "sky", name: "Night sky" }], total: 1 },
    "GET /api/blogs/{blog}/sources": { rows: [], total: 0 },
  };

  it("opens with Ctrl+K and leads to what is chosen", async () => {
    const { user, address } = show(FOUND);
    await screen.findByRole("navigation", { name: "Sections" });
    await user.keyboard("{Control>}k{/Control}");
    await user.type(await screen.findByPlaceholderText(/^Find a screen/), "audit{Enter}");
    await waitFor(() => expect(address()).toBe("/desk/b/audit"));
    expect(screen.queryByPlaceholderText(/^Find a screen/)).toBeNull();
  });

  it("finds campaigns by their names", async () => {
    const { user, address, calls } = show(FOUND);
    await user.click(await screen.findByRole("button", { name: /^Find/ }));
    await user.type(await screen.findByPlaceholderText(/^Find a screen/), "night");
    await user.click(await screen.findByRole("option", { name: "Night sky" }));
    expect(last(calls, "GET /api/blogs/{blog}/campaign-overview").query.search).toBe("night");
    await waitFor(() => expect(address()).toBe("/desk/b/campaigns/sky"));
  });

  it("says when nothing is named so", async () => {
    const { user } = show({ ...FOUND, "GET /api/blogs/{blog}/campaign-overview": { rows: [], total: 0 } });
    await user.click(await screen.findByRole("button", { name: /^Find/ }));
    await user.type(await screen.findByPlaceholderText(/^Find a screen/), "zzz");
    expect(await screen.findByText("Nothing is named “zzz”.")).toBeTruthy();
  });

  it("names to a viewer no screen of owners", async () => {
    const { user } = show({ ...FOUND, "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "viewer" }] });
    await user.click(await screen.findByRole("button", { name: /^Find/ }));
    expect(await screen.findByRole("option", { name: "People" })).toBeTruthy();
    expect(screen.queryByRole("option", { name: "Audit list" })).toBeNull();
    expect(screen.queryByRole("option", { name: "Add feeds" })).toBeNull();
  });
});

describe("links out of messages", () => {
  const INVITED = { blog: "b", title: "Almanac", role: "editor", by: "Mira", email: "ida@club.example" };
  const AT = "/api/invitations/{key}";

  it("let somebody new join", async () => {
    const { user, calls } = show(
      { [SESSION]: NOBODY, [`GET ${AT}`]: INVITED, [`POST ${AT}`]: INVITED },
      "/join/k1",
    );
    expect(await screen.findByText(/Mira invites you as editor/)).toBeTruthy();
    await user.type(screen.getByLabelText(/^Your name/), "Ida");
    await user.type(screen.getByLabelText(/^Name for signing in/), "ida");
    await user.type(screen.getByLabelText(/^Password/), "seven quiet owls{Enter}");
    expect(last(calls, `POST ${AT}`).body).toEqual({
      name: "ida",
      full_name: "Ida",
      password: "seven quiet owls",
    });
  });

  it("let who is signed in join with one click", async () => {
    const { user, address } = show({ [`GET ${AT}`]: INVITED, [`POST ${AT}`]: INVITED }, "/join/k1");
    await user.click(await screen.findByRole("button", { name: "Join as Mira" }));
    await waitFor(() => expect(address()).toBe("/desk/b/today"));
  });

  it("say when an invitation has ended", async () => {
    show({ [`GET ${AT}`]: new ProblemError(404, "Not found", "This invitation has been used.") }, "/join/k1");
    expect(await screen.findByText("This invitation has been used.")).toBeTruthy();
  });

  it("set a new password", async () => {
    const { user, calls } = show({ [SESSION]: NOBODY, "PUT /api/password-resets": NOBODY }, "/reset/MQ/t-1");
    await user.type(await screen.findByLabelText(/^New password/), "seven quiet owls{Enter}");
    expect(await screen.findByRole("heading", { name: "The password is set" })).toBeTruthy();
    expect(last(calls, "PUT /api/password-resets").body).toEqual({
      person: "MQ",
      token: "t-1",
      password: "seven quiet owls",
    });
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
