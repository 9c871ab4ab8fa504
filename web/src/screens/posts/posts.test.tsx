// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { Post } from "@/api/posts";
import { answering, last, screenAt } from "@/testing/server";
import "@/testing/render";
import PostPage from "./PostPage";
import Posts from "./Posts";

const LIST = "GET /api/blogs/{blog}/posts";
const ONE = "GET /api/blogs/{blog}/posts/{post_id}";
const MOVE = "POST /api/blogs/{blog}/posts/{post_id}/state";

const POST: Post = {
  id: 3,
  state: "held",
  title: "A fireball",
  excerpt: "Seen by nine cameras.",
  slug: "a-fireball",
  picture: "",
  category: "Sky",
  categories: ["Sky", "News"],
  tags: [],
  kind: "article",
  pinned: false,
  visibility: "public",
  byline: "",
  campaign: "Sky notes",
  campaign_slug: "sky-notes",
  revision: 2,
  source: "Club",
  link: "https://club.example/3",
  date: "2026-11-24T12:00:00Z",
  created_at: "2026-11-24T12:00:00Z",
  moves: ["draft", "published", "refused"],
};

function list(rows: Post[], answers: Record<string, unknown> = {}, address = "/desk/b/posts") {
  const calls = answering({
    [LIST]: { rows, total: rows.length, states: { held: rows.length } },
    "GET /api/blogs/{blog}/campaign-overview": { rows: [{ slug: "sky-notes", name: "Sky notes" }], total: 1 },
    "GET /api/blogs/{blog}/sources": { rows: [], total: 0 },
    ...answers,
  });
  return { calls, ...screenAt(address, "/desk/:blog/posts", <Posts />) };
}

describe("the list of posts", () => {
  it("says where each stands and of what it was made", async () => {
    list([{ ...POST, pinned: true, visibility: "phrase", kind: "guide" }]);
    const row = await within(await screen.findByRole("list", { name: "Posts" })).findByRole("listitem");
    for (const words of [
      "Sky, News",
      "Sky notes",
      "Club",
      "opens with a pass phrase",
      "pinned on top",
      "guide",
    ])
      expect(row.textContent).toContain(words);
  });

  it("is narrowed in the address", async () => {
    const { user, calls, address } = list([POST]);
    await user.click(await screen.findByRole("radio", { name: /^Held/ }));
    expect(address()).toBe("/desk/b/posts?state=held");
    expect(last(calls, LIST).query).toMatchObject({ state: "held", sort: "newest" });
  });

  it("reads its filter from the address", async () => {
    const { calls } = list([POST], {}, "/desk/b/posts?campaign=sky-notes&sort=title&offset=50");
    await screen.findByText("A fireball");
    expect(last(calls, LIST).query).toMatchObject({ campaign: "sky-notes", sort: "title", offset: 50 });
  });

  it("publishes by one press, which can be taken back", async () => {
    const { user, calls } = list([POST], { [MOVE]: { ...POST, state: "published" } });
    await user.click(await screen.findByRole("button", { name: "Publish" }));
    expect(last(calls, MOVE)).toMatchObject({ path: { post_id: 3 }, body: { state: "published" } });
    await user.click(await screen.findByRole("button", { name: "Undo" }));
    expect(last(calls, MOVE).body).toEqual({ state: "held", seen: "published" });
  });

  it("says why a post cannot move", async () => {
    const { user } = list([POST], { [MOVE]: new ProblemError(409, "No", "“A fireball” is published now.") });
    await user.click(await screen.findByRole("button", { name: "Refuse" }));
    expect(await screen.findByText("“A fireball” is published now.")).toBeTruthy();
  });

  it("gives the focus to the next post when the one that had it leaves the list", async () => {
    const other = { ...POST, id: 4, title: "A comet" };
    let rows = [POST, other];
    const { user } = list([], {
      [LIST]: () => ({ rows, total: rows.length, states: { held: rows.length } }),
      [MOVE]: () => {
        rows = [other];
        return { ...POST, state: "published" };
      },
    });
    await user.click((await screen.findAllByRole("button", { name: "Publish" }))[0] as HTMLElement);
    await waitFor(() => expect(screen.queryByText("A fireball")).toBeNull());
    await waitFor(() => expect(document.activeElement?.textContent).toBe("A comet"));
  });

  it("offers what a published post can do", async () => {
    list([{ ...POST, state: "published", moves: ["held", "refused"] }]);
    const link = await screen.findByRole("link", { name: "On the blog" });
    expect(link.getAttribute("href")).toBe("/blog/b/a-fireball/");
    expect(await screen.findByRole("button", { name: "Take off the blog" })).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Publish" })).toBeNull();
  });

  it("tells an empty list from one that is narrowed too far", async () => {
    const first = list([]);
    expect(await screen.findByText("No post yet")).toBeTruthy();
    first.unmount();
    list([], {}, "/desk/b/posts?search=comet");
    expect(await screen.findByText("No post found")).toBeTruthy();
  });
});

describe("the page of a post", () => {
  it("shows the post beside how it came to be", async () => {
    answering({
      [ONE]: POST,
      [`${ONE}/preview`]: { html: "<p>As the blog shows it</p>" },
      [`${ONE}/decision`]: { run: 8, verdict: "hold", left_at: null, trace: [], title: "A fireball" },
    });
    screenAt("/desk/b/posts/3", "/desk/:blog/posts/:id", <PostPage />);
    expect(await screen.findByTitle(/A fireball/)).toBeTruthy();
    const aside = screen.getByRole("complementary", { name: "Why it is here" });
    expect(aside.textContent).toContain("revision 2");
    expect((await within(aside).findByRole("link", { name: /^run of/ })).getAttribute("href")).toBe(
      "/desk/b/runs/8",
    );
  });

  it("says that there is no such post", async () => {
    answering({ [ONE]: new ProblemError(404, "Not found", "This blog has no such post.") });
    screenAt("/desk/b/posts/3", "/desk/:blog/posts/:id", <PostPage />);
    expect((await screen.findByRole("alert")).textContent).toContain("no such post");
  });
});

describe("a viewer", () => {
  it("reads the posts, and decides about none", async () => {
    answering({
      "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "viewer" }],
      "GET /api/blogs/{blog}/posts": { rows: [POST], total: 1, states: { held: 1 } },
      "GET /api/blogs/{blog}/campaign-overview": { rows: [], total: 0 },
      "GET /api/blogs/{blog}/sources": { rows: [], total: 0 },
    });
    screenAt("/desk/b/posts", "/desk/:blog/posts", <Posts />);
    expect(await screen.findByText(POST.title)).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Publish" })).toBeNull();
  });
});
