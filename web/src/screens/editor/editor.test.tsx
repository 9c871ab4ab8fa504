// @vitest-environment happy-dom
import { act, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { PostValues } from "@/api/posts";
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

function show(answers: Record<string, unknown> = {}, path = "/desk/b/posts/7/edit") {
  const calls = answering({
    "GET /api/session": { name: "Mira", left: false },
    [`GET ${ONE}`]: POST,
    [`GET ${ONE}/values`]: VALUES,
    "GET /api/blogs/{blog}/names/{kind}": { rows: [], total: 0 },
    ...answers,
  });
  const route = path.endsWith("/new") ? "/desk/:blog/posts/new" : "/desk/:blog/posts/:id/edit";
  return { calls, ...screenAt(path, route, <EditPost />) };
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

  it("tells the second of two who was first, and lets them put theirs over it", async () => {
    let version = 3;
    const { user, calls } = show({
      [`GET ${ONE}/values`]: () => ({ ...VALUES, version }),
      [`PUT ${ONE}`]: (call: { body: { version: number } }) =>
        call.body.version === 3
          ? new ProblemError(409, "No", "Edda has changed “A fireball” meanwhile (title).")
          : POST,
    });
    await user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    version = 5;
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect((await screen.findByRole("alert")).textContent).toContain("Edda has changed");
    await user.click(screen.getByRole("button", { name: "Put mine over theirs" }));
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, `PUT ${ONE}`).body).toEqual({ version: 5, excerpt: "Seen by nine cameras. Twice." });
  });

  it("keeps a draft while one types, and offers it the next time", async () => {
    const first = show();
    await first.user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    await waitFor(() => expect(localStorage.getItem("post draft Mira b/7")).toContain("Twice."));
    first.unmount();
    const { user } = show();
    const note = within(await screen.findByRole("region", { name: "Edits that were not saved" }));
    expect((screen.getByLabelText("Excerpt") as HTMLTextAreaElement).value).toBe("Seen by nine cameras.");
    await user.click(note.getByRole("button", { name: "Go on with them" }));
    expect((screen.getByLabelText("Excerpt") as HTMLTextAreaElement).value).toBe(
      "Seen by nine cameras. Twice.",
    );
    await user.click(screen.getByRole("button", { name: "Undo all" }));
    expect(localStorage.getItem("post draft Mira b/7")).toBeNull();
  });

  it("forgets the draft once it is saved", async () => {
    const { user } = show({ [`PUT ${ONE}`]: { ...POST, version: 4 } });
    await user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    await waitFor(() => expect(localStorage.getItem("post draft Mira b/7")).toContain("Twice."));
    await user.click(screen.getByRole("button", { name: "Save" }));
    await screen.findByText("Saved: “A fireball”.");
    expect(localStorage.getItem("post draft Mira b/7")).toBeNull();
  });

  it("keeps the draft of before until somebody has said what is to become of it", async () => {
    const left = { version: 3, values: { excerpt: "Left unsaved." }, at: "2026-11-24T12:00:00Z" };
    localStorage.setItem("post draft Mira b/7", JSON.stringify(left));
    const { user, unmount } = show();
    await screen.findByRole("region", { name: "Edits that were not saved" });
    await user.type(screen.getByLabelText("Excerpt"), "!");
    unmount();
    expect(localStorage.getItem("post draft Mira b/7")).toContain("Left unsaved.");
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
  const excerpt = () => (screen.getByLabelText("Excerpt") as HTMLTextAreaElement).value;

  it("takes what somebody else has saved while nothing is written here", async () => {
    const { user, calls, saveElsewhere } = showShared();
    await screen.findByLabelText("Excerpt");
    await saveElsewhere({ version: 8, excerpt: "Seen by ten cameras." });
    await waitFor(() => expect(excerpt()).toBe("Seen by ten cameras."));
    await user.type(screen.getByLabelText("Excerpt"), "!");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, `PUT ${ONE}`).body).toEqual({ version: 8, excerpt: "Seen by ten cameras.!" });
  });

  it("saves from the version it began with when somebody else saves while one writes", async () => {
    const { user, calls, saveElsewhere } = showShared();
    await user.type(await screen.findByLabelText("Excerpt"), " Twice.");
    await saveElsewhere({ version: 8, excerpt: "Seen by ten cameras." });
    expect(excerpt()).toBe("Seen by nine cameras. Twice.");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, `PUT ${ONE}`).body).toMatchObject({ version: 3 });
  });

  it("loses nothing of whoever leaves at once", async () => {
    const { user, unmount } = show();
    await user.type(await screen.findByLabelText("Excerpt"), "!");
    unmount();
    expect(localStorage.getItem("post draft Mira b/7")).toContain("cameras.!");
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
    expect(differing(VALUES, { title: "A fireball", tags: ["comet"], byline: "Edda" })).toEqual({
      byline: "Edda",
    });
  });
});
