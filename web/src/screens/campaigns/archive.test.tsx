import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { answering, last, screenAt } from "@/testing/server";
import { Archive } from "./Archive";

const BASE = "/api/blogs/{blog}/campaigns/{slug}";
const OLD = { slug: "old", name: "Old news", archived_at: "2026-11-20T12:00:00Z" };
const GOING = { posts: 12, on_the_blog: 9, comments: 1, decisions: 40, runs: 3, revisions: 2 };

function show(answers: Record<string, unknown> = {}) {
  const calls = answering({ "GET /api/blogs/{blog}/archived-campaigns": [OLD], ...answers });
  return { calls, ...screenAt("/desk/b/campaigns", "/desk/:blog/campaigns", <Archive blog="b" />) };
}

describe("archived campaigns", () => {
  it("are restored", async () => {
    const { user, calls } = show({ [`PUT ${BASE}/archived`]: null });
    await user.click(await screen.findByText("1 archived campaign"));
    await user.click(screen.getByRole("button", { name: "Restore" }));
    expect(last(calls, `PUT ${BASE}/archived`).body).toEqual({ archived: false });
    expect(await screen.findByText("“Old news” is back on the list.")).toBeTruthy();
  });

  it("are deleted after it was said what goes, and their name was typed", async () => {
    const { user, calls } = show({ [`GET ${BASE}/goes-with-it`]: GOING, [`POST ${BASE}/deletion`]: null });
    await user.click(await screen.findByText("1 archived campaign"));
    await user.click(screen.getByRole("button", { name: "Delete…" }));
    const dialog = within(await screen.findByRole("dialog"));
    expect(await dialog.findByText("12 posts, 9 of them on the blog now")).toBeTruthy();
    const go = dialog.getByRole("button", { name: "Delete for good" });
    expect(go.hasAttribute("disabled")).toBe(true);
    await user.type(dialog.getByLabelText(/^Type its name/), "Old news");
    await user.click(go);
    expect(last(calls, `POST ${BASE}/deletion`).path).toEqual({ blog: "b", slug: "old" });
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("are not named where there are none", async () => {
    show({ "GET /api/blogs/{blog}/archived-campaigns": [] });
    await waitFor(() => expect(screen.queryByText(/archived campaign/)).toBeNull());
  });
});
