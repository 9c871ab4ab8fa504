import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { CampaignDocument, CampaignRow } from "@/api/campaigns";
import { ProblemError } from "@/api/client";
import { DEFAULTS } from "@/testing/bench";
import { pick } from "@/testing/render";
import { answering, last, screenAt } from "@/testing/server";
import Campaigns from "./Campaigns";
import NewCampaign from "./NewCampaign";

const LIST = "GET /api/blogs/{blog}/campaign-overview";
const SOURCES = "GET /api/blogs/{blog}/sources";
const BLOG_DEFAULTS = "GET /api/blogs/{blog}/defaults";
const TRY = "POST /api/blogs/{blog}/tried-rules";
const CHECK = "POST /api/blogs/{blog}/sources/check";
const ADD = "POST /api/blogs/{blog}/new-source";
const MAKE = "POST /api/blogs/{blog}/campaigns";

const ROW: CampaignRow = {
  slug: "sky",
  name: "Sky notes",
  sources: 2,
  revision: 3,
  category: "Sky",
  mode: "hold",
  days: [0, 2, 1],
  published: 12,
  held: 4,
  last_run: null,
  schedule: { when: { kind: "daily", times: ["07:00"], days: [1, 2, 3, 4, 5] } },
  paused: false,
  next_run_at: "2026-11-25T07:00:00Z",
  time_zone: "UTC",
} as unknown as CampaignRow;
const TRIED = {
  items: 20,
  posts: 12,
  held: 12,
  on_blog: 4,
  first: [{ title: "Rings of the moon", excerpt: "Seen from the ridge.", words: 80, held: true }],
  reasons: [
    {
      verdict: "refused",
      reason: { stage: "sift", code: "number.few", rule: "words", rule_title: "", against: true, data: {} },
      count: 8,
      title: "Closed today",
    },
  ],
};
const RUN = {
  id: 8,
  state: "done",
  asked_at: "2026-11-24T12:00:00Z",
  fresh: 5,
  verdicts: { publish: 2, hold: 1 },
};

describe("the list of campaigns", () => {
  const show = (rows: CampaignRow[]) => {
    const calls = answering({ [LIST]: { rows, total: rows.length } });
    return { calls, ...screenAt("/desk/b/campaigns", "/desk/:blog/campaigns", <Campaigns />) };
  };

  it("says what each does and what has come of it", async () => {
    show([ROW]);
    const row = await screen.findByRole("listitem");
    for (const words of [
      "2 sources",
      "revision 3",
      "to Sky",
      "Holds for review",
      "never run",
      "12",
      "4 held",
    ])
      expect(row.textContent).toContain(words);
    expect(row.textContent).not.toContain("&&");
  });

  it("is narrowed and put in order by the server", async () => {
    const { user, calls } = show([ROW]);
    await screen.findByText("Sky notes");
    await pick(user, "Mode", "holds for review");
    await pick(user, "Order", "last run first");
    await pick(user, "Trouble", "only those whose last run failed");
    await waitFor(() =>
      expect(last(calls, LIST).query).toEqual({ sort: "run", mode: "hold", failed: true, offset: 0 }),
    );
  });

  it("runs and copies a campaign from its row", async () => {
    const RUNS = "POST /api/blogs/{blog}/campaigns/{slug}/runs";
    const calls = answering({
      [LIST]: { rows: [ROW], total: 1 },
      [RUNS]: { id: 5 },
      "GET /api/blogs/{blog}/campaigns/{slug}": { name: "Sky notes", document: DEFAULTS },
      [MAKE]: { slug: "sky-notes-copy", name: "Sky notes (copy)" },
    });
    const { user, address } = screenAt("/desk/b/campaigns", "/desk/:blog/campaigns", <Campaigns />);
    (await screen.findByRole("button", { name: "More for Sky notes" })).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("menuitem", { name: /^Copy/ }));
    await waitFor(() => expect(address()).toBe("/desk/b/campaigns/sky-notes-copy"));
    expect(last(calls, MAKE).body).toEqual({ name: "Sky notes (copy)", document: DEFAULTS });
    expect(calls.some(({ what }) => what === RUNS)).toBe(false);
  });

  it("shows when each runs next, and pauses one, several or all", async () => {
    const PAUSE = "POST /api/blogs/{blog}/pause";
    const moon = { ...ROW, slug: "moon", name: "Moon", paused: true, next_run_at: null };
    const calls = answering({ [LIST]: { rows: [ROW, moon], total: 2 }, [PAUSE]: { changed: 1 } });
    const { user } = screenAt("/desk/b/campaigns", "/desk/:blog/campaigns", <Campaigns />);
    const [first, second] = await screen.findAllByRole("listitem");
    expect(first?.textContent).toContain("Monday to Friday at 07:00");
    expect(second?.textContent).toContain("paused");
    (await screen.findByRole("button", { name: "More for Moon" })).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("menuitem", { name: "Resume" }));
    await waitFor(() => expect(last(calls, PAUSE).body).toEqual({ slugs: ["moon"], paused: false }));
    await user.click(screen.getByRole("checkbox", { name: "Pick Sky notes" }));
    await user.click(screen.getByRole("button", { name: "Pause" }));
    await waitFor(() => expect(last(calls, PAUSE).body).toEqual({ slugs: ["sky"], paused: true }));
    expect(await screen.findByText("1 campaign paused.")).toBeTruthy();
    await user.click(screen.getByRole("checkbox", { name: "Pick all campaigns of this page" }));
    await user.click(screen.getByRole("button", { name: "Resume" }));
    await waitFor(() => expect(last(calls, PAUSE).body).toEqual({ slugs: ["sky", "moon"], paused: false }));
    await waitFor(() => expect(screen.queryByText(/campaigns? picked/)).toBeNull());
  });

  it("picks all that are found, those of other pages too", async () => {
    const [PAUSE, FOUND] = ["POST /api/blogs/{blog}/pause", "GET /api/blogs/{blog}/found-campaigns"];
    const calls = answering({
      [LIST]: { rows: [ROW], total: 3 },
      [PAUSE]: { changed: 3 },
      [FOUND]: ["sky", "moon", "mars"],
    });
    const { user } = screenAt("/desk/b/campaigns", "/desk/:blog/campaigns", <Campaigns />);
    await user.click(await screen.findByRole("checkbox", { name: "Pick Sky notes" }));
    await user.click(screen.getByRole("button", { name: "Pick all 3 found" }));
    expect(await screen.findByText("3 campaigns picked")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /^Pick all/ })).toBeNull();
    await user.click(screen.getByRole("button", { name: "Pause" }));
    await waitFor(() =>
      expect(last(calls, PAUSE).body).toEqual({ slugs: ["sky", "moon", "mars"], paused: true }),
    );
  });

  it("leads to the last run, and says that one is under way or has failed", async () => {
    show([
      { ...ROW, slug: "a", last_run: RUN as unknown as CampaignRow["last_run"] },
      { ...ROW, slug: "b", last_run: { ...RUN, state: "deciding" } as unknown as CampaignRow["last_run"] },
      { ...ROW, slug: "c", last_run: { ...RUN, state: "failed" } as unknown as CampaignRow["last_run"] },
    ]);
    const [done, live, failed] = await screen.findAllByRole("listitem");
    expect(within(done as HTMLElement).getByRole("link", { name: /3 posts of 5 new items/ })).toBeTruthy();
    expect(within(live as HTMLElement).getByRole("link", { name: "running now" })).toBeTruthy();
    expect(failed?.textContent).toContain("failed,");
  });

  it("leads to the first one", async () => {
    show([]);
    expect((await screen.findByRole("link", { name: "Make the first one" })).getAttribute("href")).toBe(
      "/desk/b/campaigns/new",
    );
  });
});

describe("a new campaign", () => {
  const house: CampaignDocument = { ...DEFAULTS, place: { ...DEFAULTS.place, byline: "Night desk" } };
  const sources = [
    { key: "club", title: "Club", format: "RSS 2.0", items: 4 },
    { key: "wire", title: "Wire", format: "Atom", items: 1 },
  ];
  const show = (answers: Record<string, unknown> = {}, address = "/desk/b/campaigns/new") => {
    const calls = answering({
      [SOURCES]: { rows: sources, total: 2 },
      [BLOG_DEFAULTS]: house,
      [TRY]: (call: { body: { documents: unknown[] } }) => call.body.documents.map(() => TRIED),
      [MAKE]: { slug: "sky" },
      ...answers,
    });
    return { calls, ...screenAt(address, "/desk/:blog/campaigns/new", <NewCampaign />) };
  };
  const go = () => screen.findByRole("button", { name: "Go on to the bench" });

  it("needs a name and a source, and says so at once for both", async () => {
    const { user, calls } = show();
    await user.click(await go());
    expect(await screen.findByText("Give the campaign a name.")).toBeTruthy();
    expect(screen.getByText("Choose at least one source.")).toBeTruthy();
    expect(calls.some((call) => call.what === MAKE)).toBe(false);
  });

  it("begins with the defaults of the blog, changed by the start that is chosen", async () => {
    const { user, calls, address } = show();
    await user.type(await screen.findByLabelText(/^Name/), "Sky");
    await user.click(screen.getByRole("checkbox", { name: /^Club/ }));
    await user.click(screen.getByRole("radio", { name: /^Fresh news, never twice/ }));
    await user.click(screen.getByRole("radio", { name: /^Publish by itself/ }));
    await user.click(await go());
    await waitFor(() => expect(address()).toBe("/desk/b/campaigns/sky"));
    const { name, document } = last(calls, MAKE).body as { name: string; document: CampaignDocument };
    expect(name).toBe("Sky");
    expect(document.gather.sources).toEqual(["club"]);
    expect(document.place.byline).toBe("Night desk");
    expect(document.match.on_match).toBe("join");
    expect(document.release.mode).toBe("publish");
  });

  it("shows what each start would make of the newest items, before one is chosen", async () => {
    const { user, calls } = show({
      [TRY]: (call: { body: { documents: unknown[] } }) =>
        call.body.documents.map((_, place) => ({ ...TRIED, posts: 12 - place })),
    });
    expect(screen.queryByText(/of 20 items/)).toBeNull();
    await user.click(await screen.findByRole("checkbox", { name: /^Club/ }));
    await screen.findByText("12 of 20 items");
    expect(screen.getByRole("radio", { name: /^Headlines/ }).textContent).toContain("12 of 20 items");
    const effect = screen.getByRole("region", { name: "What “Headlines with a link back” would do" });
    for (const words of [
      "12 posts of the 20 newest items",
      "12 held",
      "4 of them on the blog already",
      "Rings of the moon",
      "8 items",
      "Closed today",
    ])
      expect(effect.textContent).toContain(words);
    const { documents } = last(calls, TRY).body as { documents: CampaignDocument[] };
    expect(documents.every(({ gather }) => gather.sources[0] === "club")).toBe(true);
    await user.click(screen.getByRole("radio", { name: /^Full articles/ }));
    expect(screen.getByRole("region", { name: /Full articles/ }).textContent).toContain("11 posts");
  });

  it("adds a source in place, and keeps what was filled in", async () => {
    const feed = {
      ...{ address: "new.example", url: "https://new.example/feed", format: "RSS 2.0", title: "New" },
      ...{ items: 3, samples: [], fields: {}, leads_to: [], warnings: [], error: "", detail: "", remedy: "" },
      ...{ milliseconds: 5, known_as: "" },
    };
    const { user, calls } = show({
      [CHECK]: [feed],
      [ADD]: { key: "new", title: "New", captured: 3, same_as: "" },
    });
    await user.type(await screen.findByLabelText(/^Name/), "Sky");
    await user.click(screen.getByRole("button", { name: "Add a feed" }));
    const dialog = within(await screen.findByRole("dialog", { name: "Add a feed" }));
    await user.type(dialog.getByLabelText("Address of a feed or site"), "new.example");
    await user.click(dialog.getByRole("button", { name: "Read it" }));
    await pick(user, "What posts may carry", "the title and the link");
    await user.click(dialog.getByRole("button", { name: "Add this feed" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(last(calls, ADD).body).toEqual({ url: feed.url, title: "New", right: "link" });
    // The form behind was not sent with it.
    expect(screen.queryByText("Choose at least one source.")).toBeNull();
    await user.click(await go());
    const { name, document } = await waitFor(
      () => last(calls, MAKE).body as never as { name: string; document: CampaignDocument },
    );
    expect(name).toBe("Sky");
    expect(document.gather.sources).toEqual(["new"]);
  });

  it("takes the source that it was asked for from", async () => {
    show({}, "/desk/b/campaigns/new?source=wire");
    expect(((await screen.findByRole("checkbox", { name: /^Wire/ })) as HTMLInputElement).checked).toBe(true);
  });

  it("keeps what was filled in when the server refuses it", async () => {
    const { user } = show({ [MAKE]: new ProblemError(409, "No", "There is a campaign of that name.") });
    await user.type(await screen.findByLabelText(/^Name/), "Sky");
    await user.click(screen.getByRole("checkbox", { name: /^Club/ }));
    await user.click(await go());
    expect((await screen.findByRole("alert")).textContent).toContain("campaign of that name");
    expect((screen.getByLabelText(/^Name/) as HTMLInputElement).value).toBe("Sky");
  });

  it("asks for a feed where there is no source", async () => {
    const { user } = show({ [SOURCES]: { rows: [], total: 0 } });
    await user.click(await screen.findByRole("button", { name: "Add a feed" }));
    expect(await screen.findByRole("dialog", { name: "Add a feed" })).toBeTruthy();
  });
});
