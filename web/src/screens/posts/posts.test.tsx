import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { Post } from "@/api/posts";
import { answering, last, screenAt } from "@/testing/server";
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
  right: "full",
  right_words: 100,
  link: "https://club.example/3",
  date: "2026-11-24T12:00:00Z",
  created_at: "2026-11-24T12:00:00Z",
  moves: ["draft", "published", "refused"],
  version: 1,
  edited: [],
  words: 140,
  comments: 0,
  reads: 0,
  binned_at: null,
  marker: true,
  language: "en",
  edition_of: null,
  editions: [],
};

function list(rows: Post[], answers: Record<string, unknown> = {}, address = "/desk/b/posts") {
  const calls = answering({
    [LIST]: { rows, total: rows.length, states: { held: rows.length } },
    "GET /api/blogs/{blog}/campaign-overview": { rows: [{ slug: "sky-notes", name: "Sky notes" }], total: 1 },
    "GET /api/blogs/{blog}/sources": { rows: [], total: 0 },
    "GET /api/blogs/{blog}/names/{kind}": { rows: [{ id: 1, name: "Sky", posts: 3 }], total: 1 },
    ...answers,
  });
  return { calls, ...screenAt(address, "/desk/:blog/posts", <Posts />) };
}

describe("the list of posts", () => {
  it("says where each stands and of what it was made", async () => {
    list([{ ...POST, pinned: true, visibility: "phrase", kind: "guide" }]);
    const row = (await screen.findByText("A fireball")).closest("tr") as HTMLElement;
    for (const words of ["Sky, News", "Sky notes", "opens with a pass phrase", "pinned on top", "guide"])
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
    const undo = await screen.findByRole("button", { name: "Undo" });
    // The message can be pressed one frame after it has come.
    await waitFor(() => user.click(undo));
    expect(last(calls, MOVE).body).toEqual({ state: "held", seen: "published", why: "" });
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
    expect(await screen.findByRole("button", { name: "Take off" })).toBeTruthy();
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

const CHANGES = "/api/blogs/{blog}/post-changes";
const CHANGE = {
  id: 5,
  action: "moved",
  to: "published",
  subject: "",
  by: "Mira",
  at: "2026-11-24T12:00:00Z",
  state: "done",
  posts: 2,
  done: 2,
  changed: 2,
  taken_back: false,
  taken_back_by: null,
};

describe("many posts", () => {
  const other = { ...POST, id: 4, title: "A comet", edited: ["title"], words: 90 };

  it("are selected and published together, and it can be taken back", async () => {
    const { user, calls } = list([POST, other], {
      [`POST ${CHANGES}`]: CHANGE,
      [`GET ${CHANGES}/{number}`]: CHANGE,
      [`POST ${CHANGES}/{number}/take-back`]: { ...CHANGE, id: 6, action: "taken_back" },
    });
    await user.click(await screen.findByLabelText("Select all on this page"));
    const bar = within(screen.getByRole("region", { name: "Selected posts" }));
    expect(bar.getByText("2 posts selected")).toBeTruthy();
    await user.click(bar.getByRole("button", { name: "Publish" }));
    expect(last(calls, `POST ${CHANGES}`).body).toEqual({ action: "moved", to: "published", ids: [3, 4] });
    const undo = await screen.findByRole("button", { name: "Undo" });
    // The message can be pressed one frame after it has come.
    await waitFor(() => user.click(undo));
    expect(last(calls, `POST ${CHANGES}/{number}/take-back`).path).toMatchObject({ number: 5 });
    expect(screen.queryByRole("region", { name: "Selected posts" })).toBeNull();
  });

  it("are selected from one to another, and forgotten when the filter changes", async () => {
    const rows = [3, 4, 5, 6].map((id) => ({ ...POST, id, title: `Post ${id}` }));
    const { user } = list(rows, { [LIST]: { rows, total: 9, states: { held: 9 } } });
    await user.click(await screen.findByLabelText("Select Post 3"));
    await user.keyboard("{Shift>}");
    await user.click(screen.getByLabelText("Select Post 5"));
    await user.keyboard("{/Shift}");
    const bar = () => screen.queryByRole("region", { name: "Selected posts" })?.textContent;
    expect(bar()).toContain("3 posts selected");
    await user.click(screen.getByRole("radio", { name: /^Held/ }));
    await waitFor(() => expect(bar()).toBeUndefined());
    await user.click(await screen.findByLabelText("Select all on this page"));
    await user.click(screen.getByRole("button", { name: /all 9/ }));
    expect(bar()).toContain("9 posts");
    await user.click(screen.getByRole("radio", { name: /^All/ }));
    await waitFor(() => expect(bar()).toBeUndefined());
  });

  it("are changed as the filter finds them, with the progress of a job that can be stopped", async () => {
    const running = { ...CHANGE, action: "category", state: "running", posts: 900, done: 200 };
    const { user, calls } = list(
      [POST],
      {
        [LIST]: { rows: [POST], total: 900, states: { held: 900 } },
        [`POST ${CHANGES}`]: running,
        [`GET ${CHANGES}/{number}`]: running,
        [`POST ${CHANGES}/{number}/stop`]: running,
      },
      "/desk/b/posts?campaign=sky-notes&edited=false",
    );
    await user.click(await screen.findByLabelText("Select all on this page"));
    await user.click(screen.getByRole("button", { name: "Select all 900 found" }));
    await user.click(screen.getByRole("button", { name: "Change…" }));
    await user.click(await screen.findByRole("menuitem", { name: "Move to a category…" }));
    await user.type(await screen.findByLabelText("Main category"), "Sky");
    await user.click(screen.getByRole("button", { name: "Move to a category" }));
    expect(last(calls, `POST ${CHANGES}`).body).toEqual({
      action: "category",
      category: "Sky",
      filter: { campaign: "sky-notes", edited: false, editions: false },
    });
    const progress = await screen.findByRole("progressbar", { name: "Posts changed" });
    expect(progress.getAttribute("value")).toBe("200");
    await user.click(screen.getByRole("button", { name: "Stop" }));
    expect(last(calls, `POST ${CHANGES}/{number}/stop`)).toBeTruthy();
  });

  it("are deleted after it was said what goes, without a marker and with what people made", async () => {
    const { user, calls } = list([POST, other], {
      [`POST ${CHANGES}/count`]: { posts: 1, states: { held: 1 }, edited: 1, commented: 0 },
      [`POST ${CHANGES}`]: CHANGE,
      [`GET ${CHANGES}/{number}`]: CHANGE,
    });
    await user.click(await screen.findByLabelText("Select A comet"));
    await user.click(screen.getByRole("button", { name: "Delete…" }));
    const dialog = within(await screen.findByRole("dialog"));
    await user.click(await dialog.findByLabelText(/Keep those that people have worked on: 1 edited by hand/));
    await user.click(dialog.getByLabelText("the next run decides them again"));
    await user.click(dialog.getByRole("button", { name: "Delete" }));
    expect(last(calls, `POST ${CHANGES}`).body).toEqual({
      action: "binned",
      marker: false,
      spare: false,
      alone: false,
      ids: [4],
    });
  });

  it("are sorted by the heads of the columns", async () => {
    const { user, calls } = list([POST]);
    await user.click(await screen.findByRole("button", { name: "Words" }));
    expect(last(calls, LIST).query).toMatchObject({ sort: "-words" });
    await user.click(screen.getByRole("button", { name: "Words" }));
    expect(last(calls, LIST).query).toMatchObject({ sort: "words" });
    expect(screen.getByRole("columnheader", { name: "Words" }).getAttribute("aria-sort")).toBe("ascending");
  });

  it("show the columns that a person has chosen", async () => {
    const { user } = list([POST]);
    await screen.findByText("A fireball");
    expect(screen.queryByRole("columnheader", { name: "Source" })).toBeNull();
    await user.click(screen.getByRole("button", { name: "Columns" }));
    await user.click(await screen.findByRole("checkbox", { name: "Source" }));
    expect(screen.getByRole("columnheader", { name: "Source", hidden: true })).toBeTruthy();
    expect(localStorage.getItem("columns of posts")).toContain("source");
  });

  it("are had as a file, narrowed as the list is", async () => {
    list([POST], {}, "/desk/b/posts?state=held&search=comet");
    const link = await screen.findByRole("link", { name: "CSV" });
    expect(link.getAttribute("href")).toBe("/api/blogs/b/posts.csv?state=held&search=comet&sort=newest");
  });

  it("keep their filter under a name", async () => {
    const views = "/api/blogs/{blog}/post-views";
    const { user, calls, address } = list(
      [POST],
      { [`GET ${views}`]: [{ id: 1, name: "Thin", query: "longest=90" }], [`POST ${views}`]: {} },
      "/desk/b/posts?state=held",
    );
    await user.click(await screen.findByRole("button", { name: "Views" }));
    await user.type(await screen.findByLabelText("Name of this view"), "To do");
    await user.click(screen.getByRole("button", { name: "Keep" }));
    expect(last(calls, `POST ${views}`).body).toEqual({ name: "To do", query: "state=held" });
    await user.click(screen.getByRole("button", { name: "Thin" }));
    expect(address()).toBe("/desk/b/posts?longest=90");
  });

  it("say what was done last, and take it back", async () => {
    const { user, calls } = list([POST], {
      [`GET ${CHANGES}`]: [CHANGE, { ...CHANGE, id: 4, taken_back: true }],
      [`POST ${CHANGES}/{number}/take-back`]: { ...CHANGE, id: 6, action: "taken_back" },
      [`GET ${CHANGES}/{number}`]: { ...CHANGE, id: 6, action: "taken_back" },
    });
    await user.click(await screen.findByRole("button", { name: "Last changes" }));
    const changes = within(await screen.findByRole("list", { name: "Last changes" }));
    expect(changes.getAllByText(/published 2 posts/)).toHaveLength(2);
    await user.click(changes.getByRole("button", { name: "Take back" }));
    expect(last(calls, `POST ${CHANGES}/{number}/take-back`).path).toMatchObject({ number: 5 });
  });
});

describe("the page of a post", () => {
  it("shows the post beside how it came to be", async () => {
    answering({
      [ONE]: POST,
      [`${ONE}/preview`]: { html: "<p>As the blog shows it</p>" },
      [`${ONE}/findable`]: { title: "", description: "", address: "", mapped: true, original: "", lacks: [] },
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

  it("says how it is found and shared, and what it lacks for that", async () => {
    const lacks = [
      { lack: "title_long", data: { characters: 80, most: 60 } },
      { lack: "pictures_without_alt", data: { pictures: 1 } },
    ];
    answering({
      [ONE]: POST,
      [`${ONE}/preview`]: { html: "<p>x</p>" },
      [`${ONE}/decision`]: { run: 8, verdict: "hold", left_at: null, trace: [], title: "A fireball" },
      [`${ONE}/findable`]: {
        ...{ title: "A fireball · Almanac", description: "Seen at nine.", picture: "", original: "" },
        ...{ address: "https://b.example/blog/b/a-fireball/", mapped: true, lacks },
      },
    });
    const { user } = screenAt("/desk/b/posts/3", "/desk/:blog/posts/:id", <PostPage />);
    await user.click(await screen.findByText("lacks 2 things"));
    const list = screen.getByRole("list", { name: "What it lacks" });
    expect(list.textContent).toContain("Its title has 80 characters; results show about 60.");
    expect(list.textContent).toContain("1 picture of its text has no description.");
    expect(screen.getByText("It is in the site map while it is published.")).toBeTruthy();
  });

  it("schedules, deletes and takes down from its menu", async () => {
    const calls = answering({
      [ONE]: { ...POST, moves: ["published", "scheduled", "binned"] },
      [`${ONE}/preview`]: { html: "<p>x</p>" },
      [`${ONE}/findable`]: { title: "", description: "", address: "", mapped: true, original: "", lacks: [] },
      [`${ONE}/decision`]: { run: 8, verdict: "hold", left_at: null, trace: [], title: "A fireball" },
      [MOVE]: POST,
      "POST /api/blogs/{blog}/posts/{post_id}/takedown": { withdrawn: [] },
    });
    const { user } = screenAt("/desk/b/posts/3", "/desk/:blog/posts/:id", <PostPage />);
    const open = async (name: RegExp) => {
      await user.click(await screen.findByRole("button", { name: "More" }));
      await user.click(await screen.findByRole("menuitem", { name }));
    };
    await open(/^Schedule/);
    await user.click(within(await screen.findByRole("dialog")).getByRole("button", { name: "Schedule" }));
    expect(last(calls, MOVE).body).toMatchObject({ state: "scheduled", seen: "held" });
    await open(/^Delete/);
    expect(last(calls, MOVE).body).toMatchObject({ state: "binned" });
    await open(/^Take down/);
    await user.type(await screen.findByLabelText("Who asks for it"), "Its author");
    await user.click(screen.getByRole("button", { name: "Withdraw and block" }));
    expect(last(calls, "POST /api/blogs/{blog}/posts/{post_id}/takedown").body).toEqual({
      asked_by: "Its author",
      reason: "",
    });
  });

  it("shows what its source has corrected, and takes it over", async () => {
    const correction = `${ONE}/correction`;
    const settle = correction.replace("GET", "POST");
    const calls = answering({
      [ONE]: { ...POST, state: "published", moves: [] },
      [`${ONE}/preview`]: { html: "<p>x</p>" },
      [`${ONE}/findable`]: { title: "", description: "", address: "", mapped: true, original: "", lacks: [] },
      [`${ONE}/decision`]: { run: 8, verdict: "publish", left_at: null, trace: [], title: "A fireball" },
      [correction]: {
        at: "2026-11-24T12:00:00Z",
        before: { title: "Seen at nine" },
        after: { title: "Seen at ten" },
        refused: false,
      },
      [settle]: null,
    });
    const { user } = screenAt("/desk/b/posts/3", "/desk/:blog/posts/:id", <PostPage />);
    const note = within(await screen.findByRole("region", { name: "Corrected by its source" }));
    expect(note.getByText(/The post is as it was/).textContent).not.toContain("refuse");
    expect(note.getByText("nine")).toBeTruthy();
    await user.click(note.getByRole("button", { name: "Take it over" }));
    expect(last(calls, settle).body).toEqual({ take: true });
    await user.click(note.getByRole("button", { name: "Leave the post" }));
    expect(last(calls, settle).body).toEqual({ take: false });
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
      "GET /api/blogs/{blog}/names/{kind}": { rows: [], total: 0 },
    });
    screenAt("/desk/b/posts", "/desk/:blog/posts", <Posts />);
    expect(await screen.findByText(POST.title)).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Publish" })).toBeNull();
  });
});
