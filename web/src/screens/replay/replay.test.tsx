import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { answering, last, screenAt } from "@/testing/server";
import ReplayPage from "./ReplayPage";

const LAST = "GET /api/blogs/{blog}/campaigns/{slug}/replays/last";
const BEGIN = "POST /api/blogs/{blog}/campaigns/{slug}/replays";
const ONE = "/api/blogs/{blog}/replays/{number}";
const REPLAY = {
  id: 4,
  campaign: "Sky notes",
  campaign_slug: "sky-notes",
  revision: 2,
  state: "ready",
  stop_asked: false,
  total: 12,
  done: 12,
  counts: { changed: 2, refused: 1, duplicate: 0, new: 0, same: 9, out: 0 },
  change: null,
  asked_at: "2026-11-24T12:00:00Z",
  ended_at: "2026-11-24T12:00:00Z",
};
const ROW = {
  id: 31,
  outcome: "changed",
  post: 7,
  title: "A fireball",
  reason: null,
  parts: ["body", "categories"],
  kept: ["title"],
};

function show(answers: Record<string, unknown> = {}) {
  const calls = answering({
    "GET /api/blogs/{blog}/campaigns/{slug}": { slug: "sky-notes", name: "Sky notes", revision: 3 },
    "GET /api/blogs/{blog}/campaigns/{slug}/revisions": { rows: [{ number: 3 }, { number: 2 }], total: 2 },
    [LAST]: REPLAY,
    [`GET ${ONE}/results`]: { rows: [ROW, { ...ROW, id: 32, title: "A comet" }], total: 2 },
    [`GET ${ONE}/results/{result}`]: {
      before: { categories: ["News"] },
      after: { categories: ["Sky"] },
    },
    ...answers,
  });
  const route = "/desk/:blog/campaigns/:slug/replay";
  return { calls, ...screenAt("/desk/b/campaigns/sky-notes/replay", route, <ReplayPage />) };
}

describe("bringing posts to rules", () => {
  it("says what would change, what a person's edits keep, and the difference", async () => {
    const { user } = show();
    const list = within(await screen.findByRole("list", { name: "Changed" }));
    expect(
      await list.findAllByText(/changes body, categories · edited by hand and left: title/),
    ).toHaveLength(2);
    await user.click(list.getAllByRole("button", { name: "Differences" })[0] as HTMLElement);
    expect((await list.findByText("Sky")).tagName).toBe("INS");
    expect(list.getByText("News").tagName).toBe("DEL");
  });

  it("does not say that there is none while it goes on", async () => {
    const live = { ...REPLAY, state: "deciding", done: 5 };
    show({ [LAST]: live, [`GET ${ONE}/results`]: { rows: [], total: 0 } });
    expect(await screen.findByText("None so far: the comparison goes on.")).toBeTruthy();
    expect(screen.queryByText("None")).toBeNull();
  });

  it("begins with the latest revision, or another one", async () => {
    const { user, calls } = show({ [LAST]: null, [BEGIN]: REPLAY });
    expect(await screen.findByText("Not compared yet")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Compare" }));
    expect(last(calls, BEGIN).body).toEqual({ revision: 3 });
  });

  it("shows how far it is, and stops", async () => {
    const live = { ...REPLAY, state: "deciding", done: 5 };
    const { user, calls } = show({ [LAST]: live, [`POST ${ONE}/stop`]: { ...live, stop_asked: true } });
    expect((await screen.findByRole("progressbar")).getAttribute("value")).toBe("5");
    expect(screen.queryByRole("button", { name: /Apply/ })).toBeNull();
    await user.click(screen.getByRole("button", { name: "Stop" }));
    expect(last(calls, `POST ${ONE}/stop`).path).toMatchObject({ number: 4 });
  });

  it("applies some, or all of one outcome after asking", async () => {
    const { user, calls } = show({ [`POST ${ONE}/apply`]: { ...REPLAY, state: "applying" } });
    await user.click(await screen.findByLabelText("Choose A fireball"));
    await user.click(screen.getByRole("button", { name: "Apply to 1 post" }));
    expect(last(calls, `POST ${ONE}/apply`).body).toEqual({ outcomes: [], results: [31] });
    await waitFor(() => expect(screen.queryByRole("button", { name: "Apply to 1 post" })).toBeNull());
    await user.click(screen.getByRole("button", { name: "Apply to all 2" }));
    await user.click(within(await screen.findByRole("alertdialog")).getByRole("button", { name: "Apply" }));
    expect(last(calls, `POST ${ONE}/apply`).body).toEqual({ outcomes: ["changed"], results: [] });
  });

  it("says what was changed, and takes it back", async () => {
    const change = { id: 8, state: "done", posts: 9, done: 9, changed: 7, taken_back: false };
    let now = change;
    const { user, calls } = show({
      [LAST]: { ...REPLAY, change: 8 },
      "GET /api/blogs/{blog}/post-changes/{number}": () => now,
      "POST /api/blogs/{blog}/post-changes/{number}/take-back": () => {
        now = { ...change, taken_back: true };
        return now;
      },
    });
    expect(await screen.findByText("7 posts changed, 2 left as they were.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Take back" }));
    expect(await screen.findByText(/Taken back: the posts are as they were/)).toBeTruthy();
    expect(last(calls, "POST /api/blogs/{blog}/post-changes/{number}/take-back").path).toMatchObject({
      number: 8,
    });
    expect(screen.queryByRole("button", { name: "Take back" })).toBeNull();
  });

  it("lists what would be refused with its reason", async () => {
    const note = { stage: "sift", code: "terms.no_term", against: true, data: {}, rule: "r", rule_title: "" };
    const { user, calls } = show({
      [`GET ${ONE}/results`]: {
        rows: [{ ...ROW, outcome: "refused", parts: [], kept: ["state"], reason: note }],
        total: 1,
      },
    });
    await user.click(await screen.findByRole("button", { name: /^Refused/ }));
    expect(await screen.findByText(/stays, since it was edited by hand/)).toBeTruthy();
    expect(last(calls, `GET ${ONE}/results`).query).toMatchObject({ outcome: "refused" });
  });

  it("says why it cannot begin", async () => {
    const { user } = show({ [BEGIN]: new ProblemError(409, "No", "It is being compared already.") });
    await user.click(await screen.findByRole("button", { name: "Compare again" }));
    expect(await screen.findByText("It is being compared already.")).toBeTruthy();
  });
});
