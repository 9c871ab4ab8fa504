import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { answering, last, screenAt } from "@/testing/server";
import FeedListPage from "./FeedListPage";
import FeedLists from "./FeedLists";

const LIST = {
  id: 7,
  name: "sky.opml",
  made_at: "2026-11-24T12:00:00Z",
  by: "Mira",
  counts: { read: 1, failed: 1, bad: 1 },
  under_way: false,
};
const ENTRY = {
  place: 1,
  url: "https://club.example/feed",
  title: "Club",
  labels: ["Sky"],
  code: "",
  detail: "",
};
const ROWS = [
  { ...ENTRY, outcome: "read", source: "club", items: 12 },
  {
    ...ENTRY,
    place: 2,
    title: "Wire",
    outcome: "failed",
    source: "wire",
    items: 0,
    detail: "It has trouble.",
  },
  { ...ENTRY, place: 3, title: "Bad", url: "http://", outcome: "bad", source: "", items: 0, code: "no_host" },
];
const GET = "GET /api/blogs/{blog}/feed-lists/{number}";
const AGAIN = "POST /api/blogs/{blog}/feed-lists/{number}/again";

function show(answers: Record<string, unknown> = {}) {
  const calls = answering({
    [GET]: { feed_list: LIST, labels: ["Sky"], rows: ROWS, total: 3 },
    [AGAIN]: LIST,
    ...answers,
  });
  return {
    calls,
    ...screenAt("/desk/b/feed-lists/7", "/desk/:blog/feed-lists/:number", <FeedListPage />),
  };
}

describe("the report of a list of feeds", () => {
  it("says what became of each entry, and why", async () => {
    show();
    const rows = await screen.findAllByRole("listitem");
    expect(rows.map((row) => row.textContent)).toEqual([
      expect.stringContaining("read, 12 items"),
      expect.stringContaining("could not be readIt has trouble."),
      expect.stringContaining("The address has no host"),
    ]);
    expect(screen.getByRole("link", { name: "Club" }).getAttribute("href")).toBe("/desk/b/sources/club");
  });

  it("is narrowed to an outcome", async () => {
    const { user, calls } = show();
    await user.click(await screen.findByRole("radio", { name: "1 could not be read" }));
    await waitFor(() => expect(last(calls, GET).query).toMatchObject({ outcome: "failed" }));
  });

  it("has those read again that failed", async () => {
    const { user, calls } = show();
    await user.click(await screen.findByRole("button", { name: "Read 1 feed again" }));
    await waitFor(() => expect(last(calls, AGAIN).path).toEqual({ blog: "b", number: 7 }));
  });

  it("leads to a campaign on one of its labels", async () => {
    const { user, address } = show();
    await user.click(await screen.findByRole("button", { name: "New campaign" }));
    await user.click(screen.getByRole("menuitem", { name: "on all with the label Sky" }));
    expect(address()).toBe("/desk/b/campaigns/new?label=Sky");
  });
});

describe("the lists of feeds", () => {
  it("are listed with what became of them", async () => {
    answering({ "GET /api/blogs/{blog}/feed-lists": { rows: [LIST], total: 1 } });
    screenAt("/desk/b/feed-lists", "/desk/:blog/feed-lists", <FeedLists />);
    const link = await screen.findByRole("link", { name: "sky.opml" });
    expect(link.getAttribute("href")).toBe("/desk/b/feed-lists/7");
    expect(screen.getByText(/1 could not be read · 1 no address of a feed · 1 read/)).toBeTruthy();
  });
});
