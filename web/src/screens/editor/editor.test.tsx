import { act, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { PostValues } from "@/api/posts";
import { drafts, draftsInMemory, keepDraftsIn } from "@/lib/editing/draft-store";
import { answering, last, screenAt } from "@/testing/server";
import EditPost from "./EditPost";
import { lost } from "./fidelity";
import { differing } from "./useEditing";

const ONE = "/api/blogs/{blog}/posts/{post_id}";
const VALUES: PostValues = {
  version: 3,
  edited: ["title"],
  title: "A fireball",
  slug: "a-fireball",
  excerpt: "Seen by nine cameras.",
  // What a text view would lose: these tests write into the source.
  body: "<section><p>Nine cameras saw it.</p></section>",
  description: "",
  lead_url: "",
  lead_alt: "",
  fields: [{ name: "price", label: "Price", type: "number", value: 3 }],
  categories: ["Sky", "News"],
  tags: ["comet"],
  byline: "Desk",
  kind: "article",
  pinned: false,
  comments: false,
  visibility: "public",
  pass_phrase: "",
  language: "en",
  canonical: "",
  date: "2026-11-24T12:00:00Z",
};
const POST = {
  id: 7,
  state: "held",
  slug: "a-fireball",
  title: "A fireball",
  version: 4,
  moves: ["published"],
};

const MIRA = { name: "Mira", user: "mira", csrf_token: "t", version: "1" };

function show(answers: Record<string, unknown> = {}, path = "/desk/b/posts/7/edit") {
  const calls = answering({
    "GET /api/session": MIRA,
    [`GET ${ONE}`]: POST,
    [`GET ${ONE}/values`]: VALUES,
    "GET /api/blogs/{blog}/names/{kind}": { rows: [], total: 0 },
    ...answers,
  });
  const route = path.endsWith("/new") ? "/desk/:blog/posts/new" : "/desk/:blog/posts/:id/edit";
  return { calls, ...screenAt(path, route, <EditPost />, MIRA) };
}

describe("the editor of a post", () => {
  it("saves only what was changed, from the version that it began with", async () => {
    const { user, calls } = show({ [`PUT ${ONE}`]: POST });
    const title = await screen.findByLabelText("Title");
    await user.clear(title);
    await user.type(title, "Two fireballs");
    const tags = screen.getByLabelText(/^Tags/);
    await user.clear(tags);
    await user.type(tags, "comet, #night, ,comet");
    fireEvent.change(screen.getByLabelText("Price"), { target: { value: "4.5" } });
    fireEvent.change(screen.getByLabelText("Source of the body"), { target: { value: "<p>Two.</p>" } });
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, `PUT ${ONE}`).body).toEqual({
      version: 3,
      title: "Two fireballs",
      tags: ["comet", "night"],
      body: "<p>Two.</p>",
      fields: [{ name: "price", label: "Price", type: "number", value: 4.5 }],
    });
  });

  it("makes a page of it", async () => {
    const { user, calls } = show({ [`PUT ${ONE}`]: POST });
    const kind = await screen.findByLabelText(/^Kind/);
    await user.clear(kind);
    await user.type(kind, "1 Page!");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, `PUT ${ONE}`).body).toEqual({ version: 3, kind: "page" });
  });

  it("is not shown to those who may not write", async () => {
    show({ "GET /api/blogs": [{ slug: "b", title: "B", role: "reviewer" }] }, "/desk/b/posts/new");
    expect(await screen.findByText("For editors")).toBeTruthy();
    expect(screen.queryByLabelText("Title")).toBeNull();
  });

  it("names what cannot be kept beside its field", async () => {
    const faults = [{ path: "slug", message: "Another post has this address, or had it", hint: "" }];
    const { user } = show({
      [`PUT ${ONE}`]: new ProblemError(
        422,
        "No",
        "The post cannot be saved. Correct the marked fields.",
        faults,
      ),
    });
    await user.type(await screen.findByLabelText(/^Address/), "-2");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(await screen.findByText("Another post has this address, or had it")).toBeTruthy();
    expect((screen.getByLabelText(/^Address/) as HTMLInputElement).value).toBe("a-fireball-2");
  });

  it("lets the second of two put their edits on top", async () => {
    let values = VALUES;
    const { user, calls } = show({
      [`GET ${ONE}/values`]: () => values,
      [`PUT ${ONE}`]: (call: { body: { version: number } }) =>
        call.body.version === 3
          ? new ProblemError(409, "No", "Edda has changed “A fireball” meanwhile (title).")
          : { ...POST, version: 6 },
    });
    await user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    values = { ...VALUES, version: 5, title: "Ten fireballs", edited: ["title", "tags"] };
    await user.click(screen.getByRole("button", { name: "Save" }));
    const alert = within(await screen.findByRole("alert"));
    expect(await alert.findByText("Ten fireballs")).toBeTruthy();
    expect(alert.getByText("Edda has changed “A fireball” meanwhile (title).")).toBeTruthy();
    // What the server notes beside the values is no place that anybody has edited.
    expect(alert.getByText("2 places changed by either of you")).toBeTruthy();
    await user.click(alert.getByRole("button", { name: "Put my edits on top of theirs" }));
    expect(screen.getByText(/Nothing was changed by both/)).toBeTruthy();
    expect((screen.getByLabelText("Title") as HTMLInputElement).value).toBe("Ten fireballs");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, `PUT ${ONE}`).body).toEqual({ version: 5, excerpt: "Seen by nine cameras. Twice." });
  });

  const excerpt = () => (screen.getByLabelText("Excerpt") as HTMLTextAreaElement).value;
  const kept = () => drafts().take<PostValues>("mira", "post b/7");
  const save = () => screen.getByRole("button", { name: "Save" });

  it("keeps a draft while one types, and goes on with it the next time", async () => {
    const first = show();
    await first.user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    await waitFor(async () => expect((await kept())?.now.excerpt).toContain("Twice."));
    first.unmount();
    const { user } = show();
    expect(await screen.findByText(/They are back, from a draft/)).toBeTruthy();
    expect(excerpt()).toBe("Seen by nine cameras. Twice.");
    await user.click(screen.getByRole("button", { name: "Discard these edits" }));
    expect(excerpt()).toBe("Seen by nine cameras.");
    await waitFor(async () => expect(await kept()).toBeNull());
  });

  it("puts what is typed at once on top of the draft", async () => {
    const { version, ...saved } = VALUES;
    await drafts().keep("mira", "post b/7", {
      begun: 3,
      saved,
      now: { ...saved, title: "Two fireballs" },
      at: "2026-11-24T12:00:00Z",
    });
    show();
    fireEvent.change(await screen.findByLabelText("Excerpt"), { target: { value: "At once." } });
    await screen.findByText(/They are back, from a draft/);
    expect([excerpt(), (screen.getByLabelText("Title") as HTMLInputElement).value]).toEqual([
      "At once.",
      "Two fireballs",
    ]);
  });

  it("touches no earlier draft before it has found it", async () => {
    const store = draftsInMemory();
    keepDraftsIn({ ...store, take: () => new Promise(() => {}) });
    const left = { begun: 3, saved: VALUES, now: { ...VALUES, title: "Left" }, at: "2026-11-24T12:00:00Z" };
    await store.keep("mira", "post b/7", left);
    const { user, unmount } = show();
    await user.type(await screen.findByLabelText("Excerpt"), "!");
    unmount();
    expect(await store.take("mira", "post b/7")).toEqual(left);
  });

  it("forgets the draft once it is saved", async () => {
    const { user } = show({ [`PUT ${ONE}`]: { ...POST, version: 4 } });
    await user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    await waitFor(async () => expect((await kept())?.now.excerpt).toContain("Twice."));
    await user.click(save());
    await screen.findByText("Saved: “A fireball”.");
    expect(await kept()).toBeNull();
  });

  it("keeps what is typed while a save is under way, and sends it with the next", async () => {
    let answer = (_post: unknown) => {};
    let version = 3;
    const { user, calls } = show({
      [`GET ${ONE}/values`]: () => ({
        ...VALUES,
        version,
        excerpt: version > 3 ? "Seen. Twice." : VALUES.excerpt,
      }),
      [`PUT ${ONE}`]: () => new Promise((resolve) => (answer = resolve)),
    });
    await user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    await user.click(save());
    expect(screen.getByText("saving…")).toBeTruthy();
    await user.type(screen.getByLabelText("Title"), "!");
    version = 4;
    answer(POST);
    // The server keeps the excerpt in another form.
    await waitFor(() => expect(excerpt()).toBe("Seen. Twice."));
    await user.click(save());
    await waitFor(() => expect(last(calls, `PUT ${ONE}`).body).toEqual({ version: 4, title: "A fireball!" }));
  });

  it("sends what was typed meanwhile as soon as the first save is through", async () => {
    let answer = (_post: unknown) => {};
    const { user, calls } = show({ [`PUT ${ONE}`]: () => new Promise((resolve) => (answer = resolve)) });
    await user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    await user.click(save());
    await user.type(screen.getByLabelText("Title"), "!");
    await user.keyboard("{Control>}s{/Control}");
    answer(POST);
    await waitFor(() => expect(last(calls, `PUT ${ONE}`).body).toEqual({ version: 4, title: "A fireball!" }));
  });

  it("keeps the draft with its writer when the session ends", async () => {
    const { user, queries, unmount } = show();
    await user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    act(() => void queries.setQueryData(["session"], { ...MIRA, name: "", user: "" }));
    await user.type(screen.getByLabelText("Excerpt"), " Thrice.");
    unmount();
    await waitFor(async () => expect((await kept())?.now.excerpt).toContain("Twice. Thrice."));
    expect(await drafts().take("", "post b/7")).toBeNull();
  });

  it("saves nothing by Ctrl+S where nothing was changed", async () => {
    const { user, calls } = show({ [`PUT ${ONE}`]: POST });
    await screen.findByLabelText("Excerpt");
    await user.keyboard("{Control>}s{/Control}");
    expect(calls.some(({ what }) => what === `PUT ${ONE}`)).toBe(false);
  });

  it("takes back a check box by Ctrl+Z, and brings it again", async () => {
    const { user } = show();
    const pinned = (await screen.findByLabelText("Pinned on top")) as HTMLInputElement;
    await user.click(pinned);
    await user.keyboard("{Control>}z{/Control}");
    expect(pinned.checked).toBe(false);
    await user.keyboard("{Control>}y{/Control}");
    expect(pinned.checked).toBe(true);
  });

  it("asks before it undoes everything, and can bring it back", async () => {
    const { user } = show();
    await user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    await user.click(screen.getByRole("button", { name: "Undo all" }));
    await user.click(
      within(await screen.findByRole("alertdialog")).getByRole("button", { name: "Undo all" }),
    );
    expect(excerpt()).toBe("Seen by nine cameras.");
    await user.click(screen.getByRole("button", { name: "Undo" }));
    expect(excerpt()).toBe("Seen by nine cameras. Twice.");
  });

  it("says that the network is gone, keeps the edits, and saves by itself once it is back", async () => {
    let there = false;
    const { user } = show({
      [`PUT ${ONE}`]: () => (there ? POST : new ProblemError(0, "The server does not answer", "Look.")),
    });
    await user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    await user.click(save());
    expect(await screen.findByText(/The server does not answer, so the post is not saved yet/)).toBeTruthy();
    there = true;
    act(() => void window.dispatchEvent(new Event("online")));
    expect(await screen.findByText("Saved: “A fireball”.")).toBeTruthy();
    expect(screen.queryByText(/does not answer/)).toBeNull();
  });

  /** Shows the editor with a function that saves the post elsewhere and refetches it here. */
  function showShared() {
    let values = VALUES;
    const shown = show({ [`GET ${ONE}/values`]: () => values, [`PUT ${ONE}`]: POST });
    const saveElsewhere = async (theirs: Partial<PostValues>) => {
      values = { ...VALUES, ...theirs };
      await act(() => shown.queries.invalidateQueries());
    };
    return { ...shown, saveElsewhere };
  }

  it("takes what somebody else has saved while nothing is written here", async () => {
    const { user, calls, saveElsewhere } = showShared();
    await screen.findByLabelText("Excerpt");
    await saveElsewhere({ version: 8, excerpt: "Seen by ten cameras." });
    await waitFor(() => expect(excerpt()).toBe("Seen by ten cameras."));
    await user.type(screen.getByLabelText("Excerpt"), "!");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, `PUT ${ONE}`).body).toEqual({ version: 8, excerpt: "Seen by ten cameras.!" });
  });

  it("tells of what somebody else has saved while one writes, side by side", async () => {
    const { user, calls, saveElsewhere } = showShared();
    await user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    await saveElsewhere({ version: 8, excerpt: "Seen by ten cameras.", title: "Ten" });
    expect(excerpt()).toBe("Seen by nine cameras. Twice.");
    const alert = within(await screen.findByRole("alert"));
    expect(alert.getByText("2 places changed by either of you")).toBeTruthy();
    await user.click(alert.getByRole("button", { name: "Keep mine as it is" }));
    await user.click(save());
    expect(last(calls, `PUT ${ONE}`).body).toMatchObject({ version: 8, title: "A fireball" });
  });

  it("loses nothing where the person leaves at once", async () => {
    const { user, unmount } = show();
    await user.type(await screen.findByLabelText("Excerpt"), "!");
    unmount();
    await waitFor(async () => expect((await kept())?.now.excerpt).toContain("cameras.!"));
  });

  it("writes a new post", async () => {
    const { user, calls, address } = show({ "POST /api/blogs/{blog}/posts": POST }, "/desk/b/posts/new");
    await user.type(await screen.findByLabelText("Title"), "By hand");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, "POST /api/blogs/{blog}/posts").body).toEqual({ title: "By hand" });
    expect(await screen.findByText("Saved: “A fireball”.")).toBeTruthy();
    expect(screen.queryByRole("alertdialog")).toBeNull();
    await waitFor(() => expect(address()).toBe("/desk/b/posts/7/edit"));
  });

  it("shows what the blog would show of it", async () => {
    const { user, calls } = show({
      "POST /api/blogs/{blog}/post-preview": { html: "<p>As it would be</p>" },
    });
    await user.type(await screen.findByLabelText("Title"), "!");
    await user.click(screen.getByRole("radio", { name: "As the blog shows it" }));
    expect(await screen.findByTitle("Preview: A fireball!")).toBeTruthy();
    expect(last(calls, "POST /api/blogs/{blog}/post-preview").body).toMatchObject({
      post: 7,
      title: "A fireball!",
    });
  });
});

describe("the history of a post", () => {
  const ENTRY = {
    version: 3,
    action: "edited",
    by: "Edda",
    at: "2026-11-24T12:00:00Z",
    before: { title: "One fireball", edited: [] },
    kept: true,
    after: { title: "A fireball", edited: ["title"] },
    why: "",
  };

  it("says who changed what, and goes back after asking", async () => {
    const { user, calls } = show({
      [`GET ${ONE}/history`]: [
        ENTRY,
        { ...ENTRY, version: 2, action: "moved", before: { state: "published" }, after: { state: "held" } },
      ],
      [`POST ${ONE}/versions/{version}/restore`]: POST,
    });
    await user.click(await screen.findByRole("radio", { name: "History" }));
    const history = within(await screen.findByRole("list", { name: "History" }));
    expect(await history.findByText(/edited it/)).toBeTruthy();
    expect(history.getByText("One").tagName).toBe("DEL");
    expect(history.getByText("Held").tagName).toBe("INS");
    expect(history.queryByText("edited")).toBeNull();
    const buttons = history.getAllByRole("button", { name: "Go back to this" });
    await user.click(buttons.at(-1) as HTMLElement);
    await user.click(within(await screen.findByRole("alertdialog")).getByRole("button", { name: "Go back" }));
    const asked = last(calls, `POST ${ONE}/versions/{version}/restore`);
    expect([asked.path.version, asked.body]).toEqual([1, { seen: 3 }]);
  });
});

describe("the history of a post of long ago", () => {
  it("says what is kept no more, and offers no way back there", async () => {
    const at = { by: "Edda", at: "2025-11-24T12:00:00Z", why: "", action: "edited" };
    const { user } = show({
      [`GET ${ONE}/history`]: [
        { ...at, version: 3, before: { title: "One" }, after: { title: "Two" }, kept: true },
        { ...at, version: 2, before: {}, after: {}, kept: false },
      ],
    });
    await user.click(await screen.findByRole("radio", { name: "History" }));
    const history = within(await screen.findByRole("list", { name: "History" }));
    expect(await history.findByText("What it was before and after is not kept any more.")).toBeTruthy();
    expect(history.getAllByRole("button", { name: "Go back to this" })).toHaveLength(1);
  });
});

describe("what an editor would lose", () => {
  it("is named, and what it writes in another way is not", () => {
    expect(lost("<p>a <b>b</b></p>", "<p>a <strong>b</strong></p>")).toEqual([]);
    expect(lost("<section><p>a</p></section>", "<p>a</p>")).toEqual(["section"]);
    expect(lost("<p>a b</p>", "<p>a</p>")).toEqual(["text"]);
  });

  it("is told apart from what is the same", () => {
    expect(differing(VALUES, { ...VALUES, tags: ["comet"], byline: "Edda" })).toEqual({
      byline: "Edda",
    });
  });
});
