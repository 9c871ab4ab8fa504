// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { answering, type Call, last, screenAt } from "@/testing/server";
import "@/testing/render";
import Review from "./Review";

const POST = {
  state: "held",
  excerpt: "",
  slug: "a",
  picture: "",
  category: "Sky",
  categories: ["Sky"],
  tags: ["comet"],
  kind: "",
  pinned: false,
  visibility: "public",
  byline: "",
  campaign: "Sky notes",
  campaign_slug: "sky",
  revision: 2,
  source: "Club",
  link: "https://club.example/1",
  date: "2026-11-24T12:00:00Z",
  created_at: "2026-11-24T12:00:00Z",
  moves: ["published", "refused", "draft"],
};
const MOVE = "POST /api/blogs/{blog}/posts/{post_id}/state";
const DECISION = { item: { facts: {}, media: [] }, trace: [], verdict: "hold" };

function show(answers: Record<string, unknown> = {}) {
  let held = ["First", "Second", "Third"].map((title, place) => ({ ...POST, id: place + 1, title }));
  const calls = answering({
    "GET /api/blogs/{blog}/posts": () => ({ rows: held, total: held.length, states: { held: held.length } }),
    "GET /api/blogs/{blog}/campaigns": { rows: [], total: 0 },
    "GET /api/blogs/{blog}/sources": { rows: [], total: 0, labels: [] },
    "GET /api/blogs/{blog}/comments": { rows: [], total: 0, states: { waiting: 0 } },
    "GET /api/blogs/{blog}/posts/{post_id}/preview": ({ path }: Call) => ({ html: `<p>${path.post_id}</p>` }),
    "GET /api/blogs/{blog}/posts/{post_id}/decision": DECISION,
    [MOVE]: ({ path }: Call) => {
      held = held.filter(({ id }) => id !== path.post_id);
      return POST;
    },
    ...answers,
  });
  return { calls, ...screenAt("/desk/b/review", "/desk/:blog/review", <Review />) };
}

const shownPost = (number: number) =>
  screen.findByTitle(`Preview: ${["", "First", "Second", "Third"][number]}`);

describe("the review desk", () => {
  it("shows a post, and goes on with single keys", async () => {
    const { user, calls } = show();
    await shownPost(1);
    await user.keyboard("j");
    await shownPost(2);
    await user.keyboard("k");
    await shownPost(1);
    await user.keyboard("p");
    await shownPost(2);
    expect(last(calls, MOVE)).toMatchObject({
      path: { post_id: 1 },
      body: { state: "published", seen: "held" },
    });
    expect(screen.getByText("2 posts held")).toBeTruthy();
    await user.keyboard("x");
    await shownPost(3);
    expect(last(calls, MOVE)).toMatchObject({ path: { post_id: 2 }, body: { state: "refused" } });
  });

  it("has the next post ready before it is asked for", async () => {
    const { calls } = show();
    await shownPost(1);
    await waitFor(() =>
      expect(calls.some(({ what, path }) => what.endsWith("/preview") && path.post_id === 2)).toBe(true),
    );
  });

  it("decides about several that are marked", async () => {
    const { user, calls } = show();
    await shownPost(1);
    await user.keyboard(" ");
    await user.keyboard(" ");
    expect(screen.getByText(/3 posts held, 2 marked/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: /^Publish 2 posts/ }));
    await shownPost(3);
    const moved = calls.filter(({ what }) => what === MOVE).map(({ path }) => path.post_id);
    expect(moved).toEqual([1, 2]);
  });

  it("does nothing by keys while something is typed", async () => {
    const { user, calls } = show();
    await shownPost(1);
    await user.type(screen.getByLabelText("Find a post"), "px");
    expect(calls.some(({ what }) => what === MOVE)).toBe(false);
  });

  it("brings a post back that somebody else has decided about, and says who", async () => {
    const told = "Edda has decided about “First” meanwhile: it is published now. Nothing was changed.";
    const { user } = show({ [MOVE]: new ProblemError(409, "Conflict", told) });
    await shownPost(1);
    await user.keyboard("x");
    expect(await screen.findByText(told)).toBeTruthy();
    const list = screen.getByRole("list", { name: "Held posts" });
    await waitFor(() => expect(within(list).getByText("First")).toBeTruthy());
  });

  it("names its keys", async () => {
    const { user } = show();
    await shownPost(1);
    await user.keyboard("?");
    expect(within(await screen.findByRole("dialog")).getByText("mark it, and go on")).toBeTruthy();
  });
});
