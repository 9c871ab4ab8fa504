import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Need } from "@/api/today";
import { needWords } from "@/lib/needs";
import { answering, screenAt } from "@/testing/server";
import Today from "./Today";

const TODAY = "GET /api/blogs/{blog}/today";
const EMPTY = {
  now: "2026-11-24T12:00:00Z",
  since: "2026-11-23T16:00:00Z",
  until: "2026-11-24T18:00:00Z",
  time_zone: "Europe/Berlin",
  out_today: 0,
  needs: [],
  lines: [],
  campaigns: 0,
  latest: [],
  days: [],
  sources: [],
};
const LINE = {
  slug: "sky",
  name: "Sky",
  schedule: { when: { kind: "every", minutes: 60 } },
  paused: false,
  runs: [
    { run: 4, at: "2026-11-24T09:00:00Z", posts: 2, failed: false },
    { run: 5, at: "2026-11-24T11:00:00Z", posts: 0, failed: true },
  ],
  next: ["2026-11-24T13:00:00Z"],
  made: 2,
  held: 3,
};

function show(more: object) {
  answering({ [TODAY]: { ...EMPTY, ...more } });
  return screenAt("/desk/b/today", "/desk/:blog/today", <Today />);
}

describe("today", () => {
  it("shows runs and next times by the clock of the blog, each leading to its run", async () => {
    show({ lines: [LINE], campaigns: 1, out_today: 2 });
    expect(await screen.findByRole("heading", { name: /^Tuesday,? 24 November$/ })).toBeTruthy();
    const line = within(screen.getByRole("list", { name: "Campaigns" })).getByRole("listitem");
    const made = within(line).getByRole("link", { name: "10:30: 2 posts by 1 run" });
    expect(made.getAttribute("href")).toBe("/desk/b/runs/4");
    expect(within(line).getByRole("link", { name: "12:30: 0 posts by 1 run, with a failure" })).toBeTruthy();
    expect(within(line).getByTitle("planned for 14:00")).toBeTruthy();
    expect(line.textContent).toContain("every hour");
    expect(line.textContent).toContain("3 held");
  });

  it("puts the runs of one hour into one mark, where its hour is", async () => {
    const runs = [
      { run: 4, at: "2026-11-24T09:00:00Z", posts: 2, failed: false },
      { run: 5, at: "2026-11-24T09:30:00Z", posts: 3, failed: false },
    ];
    show({ lines: [{ ...LINE, runs }], campaigns: 1 });
    const made = await screen.findByRole("link", { name: "10:30: 5 posts by 2 runs" });
    expect(made.getAttribute("href")).toBe("/desk/b/runs/5");
    // The middle of the 18th of 26 hours.
    expect(Number.parseFloat(made.style.left)).toBeCloseTo((17.5 / 26) * 100, 1);
  });

  it("counts what became of the items of each day, and leads to them", async () => {
    const days = [{ day: "2026-11-24", kept: 4, held: 1, duplicate: 0, refused: 2 }];
    const { user } = show({ lines: [LINE], campaigns: 1, days });
    const kept = await screen.findByRole("link", { name: "4 kept" });
    expect(kept.getAttribute("href")).toBe("/desk/b/decisions?outcome=kept");
    const day = screen.getByText("24 Nov: 4 kept, 1 held, 2 refused").closest("a");
    expect(day?.getAttribute("href")).toBe("/desk/b/decisions?day=2026-11-24");
    await user.click(screen.getByTitle("24 Nov: 1 held"));
    expect(screen.getByTestId("address").textContent).toBe("/desk/b/decisions?day=2026-11-24&outcome=held");
  });

  it("names what needs a person with the action beside it", async () => {
    const needs = [{ code: "posts_held", data: { number: 14 } }];
    show({ lines: [LINE], campaigns: 1, needs });
    const link = await screen.findByRole("link", { name: "Review them" });
    expect(link.getAttribute("href")).toBe("/desk/b/review");
    expect(screen.getByText("14 posts held")).toBeTruthy();
    expect(screen.getByText(/1 thing to look at/)).toBeTruthy();
  });

  it("shows a new blog the three steps to its first post, and how far it is", async () => {
    const source = { key: "club", title: "Club", health: "ok", days: [] };
    const steps = async (more: object) => {
      const { unmount } = show(more);
      const list = within(await screen.findByRole("region", { name: "First steps" }));
      await list.findByRole("link");
      const told = [
        list.getAllByText(/: done$/, { exact: false }).length,
        list.getByRole("link").getAttribute("href"),
      ];
      unmount();
      return told;
    };
    const none = show({});
    const first = within(await screen.findByRole("region", { name: "First steps" }));
    expect((await first.findByRole("link", { name: "Add sources" })).getAttribute("href")).toBe(
      "/desk/b/sources/add",
    );
    expect(screen.getByText("Nothing. All that runs by itself runs well.")).toBeTruthy();
    none.unmount();
    expect(await steps({ sources: [source] })).toEqual([1, "/desk/b/campaigns/new"]);
    const made = { sources: [source], campaigns: 1 };
    expect(await steps({ ...made, lines: [{ ...LINE, held: 0 }] })).toEqual([2, "/desk/b/campaigns/sky"]);
    expect(await steps({ ...made, lines: [LINE] })).toEqual([2, "/desk/b/review"]);
  });

  it("shows the steps no more once a post is out", async () => {
    const post = {
      id: 1,
      title: "A comet",
      picture: "",
      category: "",
      campaign: "",
      date: "2026-11-24T11:00:00Z",
    };
    show({ lines: [LINE], campaigns: 1, latest: [post] });
    expect(await screen.findByText("A comet")).toBeTruthy();
    expect(screen.queryByRole("region", { name: "First steps" })).toBeNull();
  });
});

describe("what needs a person", () => {
  it("has words for every kind", () => {
    const source = { key: "wire", title: "Wire", health_data: {}, failing_since: null, next_read_at: null };
    const needs: Need[] = [
      { code: "source_gone", data: { ...source, health: "gone", read_detail: "It is gone." } },
      { code: "source_failing", data: { ...source, health: "failing", read_detail: "No." } },
      {
        code: "sources_failing",
        data: {
          number: 12,
          host: "club.example",
          health: "failing",
          says: "do not answer",
          remedy: "It is tried again by itself.",
          since: "2026-11-26T09:10:00Z",
          titles: ["Club", "Wire", "Ring"],
        },
      },
      { code: "more_sources", data: { number: 40 } },
      { code: "source_changed", data: { ...source, health: "changed" } },
      { code: "source_quiet", data: { ...source, health: "quiet" } },
      { code: "run_failed", data: { run: 3, campaign: "Sky", failure: "The rules do not hold." } },
      { code: "posts_held", data: { number: 1 } },
      { code: "comments", data: { number: 2 } },
      { code: "corrections", data: { number: 3 } },
      { code: "prices_held", data: { number: 1 } },
      { code: "prices_old", data: { number: 2 } },
      { code: "no_disclosure", data: { number: 1 } },
      { code: "hub_failing", data: { hub: "https://hub.example/", failure: "No answer." } },
      { code: "service_failing", data: { service: "Machine", detail: "It is used up.", texts: 2 } },
      { code: "end_near", data: { slug: "sky", campaign: "Sky", day: "2026-11-26" } },
    ];
    const worded = needs.map((need) => needWords("b", need));
    expect(worded.map(({ title }) => title)).toEqual([
      "Wire",
      "Wire",
      "12 sources at club.example",
      "40 more sources need you",
      "Wire",
      "Wire",
      "The last run of “Sky” failed",
      "1 post held",
      "2 new comments",
      "3 published posts corrected by their sources",
      "1 price held",
      "2 prices too old to show",
      "No line says that links earn",
      "The hub is not told of new posts",
      "2 texts wait for a language service",
      "“Sky” ends soon",
    ]);
    expect(worded[2]?.text).toMatch(
      /^They do not answer since .*: Club, Wire, Ring and 9 more\. It is tried again/,
    );
    expect(worded[2]?.action.to).toBe("/desk/b/sources?search=club.example&health=failing");
    for (const { text, action } of worded) {
      expect(text).not.toBe("");
      expect(action.to.startsWith("/desk/b/")).toBe(true);
    }
  });
});
