import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { SourceReads } from "@/screens/sources/SourceReads";
import { TodayReads } from "@/screens/today/TodayReads";
import { answering, last, screenAt } from "@/testing/server";
import ReadsPage from "./ReadsPage";

const READS = "GET /api/blogs/{blog}/reads";
const SOME = {
  total: 40,
  days: [
    { day: "2026-11-23", reads: 10 },
    { day: "2026-11-24", reads: 30 },
  ],
  posts: [
    { id: 7, title: "The comet over the mill", source: "Ridge", reads: 25 },
    { id: 8, title: "What we are", source: "", reads: 15 },
  ],
  sources: [{ key: "ridge", name: "Ridge", archived: false, posts: 2, reads: 25 }],
  campaigns: [
    { key: "sky", name: "Sky", archived: false, posts: 2, reads: 25 },
    { key: "old", name: "Old", archived: true, posts: 1, reads: 3 },
  ],
};
const NONE = { total: 0, days: [{ day: "2026-11-24", reads: 0 }], posts: [], sources: [], campaigns: [] };

describe("the reads of a blog", () => {
  it("are told by day, post, source and campaign, each leading there", async () => {
    answering({ [READS]: SOME });
    screenAt("/desk/b/reads", "/desk/:blog/reads", <ReadsPage />);
    const posts = within(await screen.findByRole("region", { name: "Posts" }));
    expect(posts.getByRole("link", { name: "The comet over the mill" }).getAttribute("href")).toBe(
      "/desk/b/posts/7",
    );
    expect(posts.getAllByRole("listitem")[0]?.textContent).toContain("63%25");
    expect(posts.getAllByRole("listitem")[1]?.textContent).toContain("written here");
    const source = within(screen.getByRole("region", { name: "Sources" })).getByRole("listitem");
    expect(source.textContent).toContain("2 posts read, 13 reads each");
    expect(within(source).getByRole("link").getAttribute("href")).toBe("/desk/b/sources/ridge");
    const campaigns = within(screen.getByRole("region", { name: "Campaigns" }));
    const campaign = campaigns.getByRole("link");
    expect(campaigns.getByText("archived · 1 post read, 3.0 reads each")).toBeTruthy();
    expect(campaign.getAttribute("href")).toBe("/desk/b/campaigns/sky");
    expect(screen.getByText("24 Nov: 30 reads")).toBeTruthy();
  });

  it("are asked for another span", async () => {
    const calls = answering({ [READS]: SOME });
    const { user } = screenAt("/desk/b/reads", "/desk/:blog/reads", <ReadsPage />);
    await user.click(await screen.findByRole("radio", { name: "a year" }));
    expect(last(calls, READS).query).toEqual({ days: 365 });
  });

  it("say what is counted where nothing was read", async () => {
    answering({ [READS]: NONE });
    screenAt("/desk/b/reads", "/desk/:blog/reads", <ReadsPage />);
    expect(await screen.findByText(/without a cookie/)).toBeTruthy();
  });
});

describe("reads beside other things", () => {
  it("stand on the first screen by source, and only where there are some", async () => {
    answering({ [READS]: SOME });
    const { unmount } = screenAt("/desk/b/today", "/desk/:blog/today", <TodayReads blog="b" />);
    const part = within(await screen.findByRole("region", { name: "Reads" }));
    expect(part.getByRole("link", { name: "Ridge" }).getAttribute("href")).toBe("/desk/b/sources/ridge");
    expect(part.getByRole("link", { name: "All" }).getAttribute("href")).toBe("/desk/b/reads");
    unmount();
    answering({ [READS]: NONE });
    screenAt("/desk/b/today", "/desk/:blog/today", <TodayReads blog="b" />);
    expect(screen.queryByRole("region", { name: "Reads" })).toBeNull();
  });

  it("say what part a source has in them", async () => {
    answering({ [READS]: SOME });
    const { unmount } = screenAt("/desk/b/s", "/desk/:blog/s", <SourceReads blog="b" source="ridge" />);
    expect(await screen.findByText(/25 reads in 30 days: 63% of all, by 2 posts/)).toBeTruthy();
    unmount();
    screenAt("/desk/b/s", "/desk/:blog/s", <SourceReads blog="b" source="club" />);
    expect(await screen.findByText(/None of its posts was read/)).toBeTruthy();
  });
});
