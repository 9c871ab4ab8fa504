import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Comment } from "@/api/comments";
import { answering, last, screenAt } from "@/testing/server";
import Comments from "./Comments";

const LIST = "GET /api/blogs/{blog}/comments";
const MOVE = "POST /api/blogs/{blog}/comments/{number}/state";
const SEEN: Comment = {
  id: 7,
  state: "waiting",
  name: "Wren",
  text: "We saw it too.",
  post: 3,
  post_title: "A fireball",
  post_slug: "a-fireball",
  made_at: "2026-11-24T12:00:00Z",
};

function show(rows: Comment[], address = "/desk/b/comments") {
  const states = { waiting: 0, shown: 0, removed: 0 };
  for (const { state } of rows) states[state] += 1;
  const calls = answering({
    [LIST]: { rows, total: rows.length, states },
    [MOVE]: { ...SEEN, state: "shown" },
  });
  return { calls, ...screenAt(address, "/desk/:blog/comments", <Comments />) };
}

describe("the comments of readers", () => {
  it("stand with who wrote them and under what", async () => {
    show([SEEN]);
    const row = await screen.findByRole("listitem");
    expect(row.textContent).toContain("Waiting");
    expect(row.textContent).toContain("We saw it too.");
    expect(within(row).getByRole("link", { name: "A fireball" }).getAttribute("href")).toBe(
      "/desk/b/posts/3",
    );
  });

  it("are shown by one press, which can be taken back", async () => {
    const { user, calls } = show([SEEN]);
    await user.click(await screen.findByRole("button", { name: "Show" }));
    expect(last(calls, MOVE)).toMatchObject({ path: { blog: "b", number: 7 }, body: { state: "shown" } });
    const undoing = await screen.findByRole("button", { name: "Undo" });
    // The message can be pressed one frame after it has come.
    await waitFor(() => user.click(undoing));
    expect(last(calls, MOVE).body).toEqual({ state: "waiting" });
  });

  it("offer only the moves that are left", async () => {
    show([{ ...SEEN, state: "shown" }]);
    expect(await screen.findByRole("button", { name: "Remove" })).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Show" })).toBeNull();
  });

  it("are narrowed in the address, so that the list can be shared", async () => {
    const { user, calls, address } = show([SEEN]);
    await user.click(await screen.findByRole("radio", { name: /^Shown/ }));
    expect(address()).toBe("/desk/b/comments?state=shown");
    expect(last(calls, LIST).query).toMatchObject({ state: "shown", offset: 0 });
  });

  it("say what to do where there are none", async () => {
    show([]);
    expect(await screen.findByText("No comment yet")).toBeTruthy();
    expect(screen.getByText(/stage Place of its bench/)).toBeTruthy();
  });

  it("say that the server does not answer", async () => {
    answering({});
    screenAt("/desk/b/comments", "/desk/:blog/comments", <Comments />);
    expect((await screen.findByRole("alert")).textContent).toContain("does not answer");
  });
});
