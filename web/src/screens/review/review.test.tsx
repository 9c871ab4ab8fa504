import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { pick } from "@/testing/render";
import { answering, type Call, last, screenAt } from "@/testing/server";
import Review from "./Review";

const POST = {
  edition_of: null,
  language: "en",
  state: "held",
  excerpt: "",
  slug: "a",
  picture: "",
  category: "Sky",
  categories: ["Sky"],
  tags: ["comet"],
  kind: "",
  pinned: false,
  visibility: "public",
  byline: "",
  campaign: "Sky notes",
  campaign_slug: "sky",
  revision: 2,
  source: "Club",
  right: "excerpt",
  right_words: 80,
  words: 40,
  link: "https://club.example/1",
  date: "2026-11-24T12:00:00Z",
  created_at: "2026-11-24T12:00:00Z",
  moves: ["published", "refused", "draft", "scheduled"],
};
const MOVE = "POST /api/blogs/{blog}/posts/{post_id}/state";
const MANY = "POST /api/blogs/{blog}/post-changes";
const ALIKE = "GET /api/blogs/{blog}/posts/{post_id}/alike";
const SAME_EVENT = "GET /api/blogs/{blog}/posts/{post_id}/same-event";
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
const DECISION = {
  item: { facts: {}, media: [], text: "Seen by nine. Read more at our site.", summary: "" },
  trace: [],
  verdict: "hold",
};

function show(answers: Record<string, unknown> = {}) {
  let held = ["First", "Second", "Third"].map((title, place) => ({ ...POST, id: place + 1, title }));
  const calls = answering({
    "GET /api/blogs/{blog}/posts": () => ({ rows: held, total: held.length, states: { held: held.length } }),
    "GET /api/blogs/{blog}/campaigns": { rows: [], total: 0 },
    "GET /api/blogs/{blog}/sources": { rows: [], total: 0, labels: [] },
    "GET /api/blogs/{blog}/comments": { rows: [], total: 0, states: { waiting: 0 } },
    "GET /api/blogs/{blog}/posts/{post_id}/preview": ({ path }: Call) => ({ html: `<p>${path.post_id}</p>` }),
    "GET /api/blogs/{blog}/posts/{post_id}/decision": DECISION,
    "GET /api/session": { name: "Mira", left: false },
    "GET /api/blogs/{blog}/held-reasons": [{ code: "hold.no_picture", posts: 2 }],
    "GET /api/blogs/{blog}/posts/{post_id}/values": { version: 1, body: "<p>Seen by nine.</p>" },
    [ALIKE]: [],
    [SAME_EVENT]: [],
    [MANY]: (call: Call) => {
      const { ids } = call.body as { ids: number[] };
      held = held.filter(({ id }) => !ids.includes(id));
      return CHANGE;
    },
    [MOVE]: ({ path }: Call) => {
      held = held.filter(({ id }) => id !== path.post_id);
      return POST;
    },
    ...answers,
  });
  return { calls, ...screenAt("/desk/b/review", "/desk/:blog/review", <Review />) };
}

const shownPost = (number: number) =>
  screen.findByTitle(`Preview: ${["", "First", "Second", "Third"][number]}`);

describe("the review desk", () => {
  it("shows a post, and goes on with single keys", async () => {
    const { user, calls } = show();
    await shownPost(1);
    await user.keyboard("j");
    await shownPost(2);
    await user.keyboard("k");
    await shownPost(1);
    await user.keyboard("p");
    await shownPost(2);
    expect(last(calls, MOVE)).toMatchObject({
      path: { post_id: 1 },
      body: { state: "published", seen: "held" },
    });
    expect(screen.getByText("2 posts held")).toBeTruthy();
    await user.keyboard("x");
    await shownPost(3);
    expect(last(calls, MOVE)).toMatchObject({ path: { post_id: 2 }, body: { state: "refused" } });
  });

  it("shows an edition beside its original, and as the blog shows it", async () => {
    const edition = {
      ...POST,
      id: 1,
      title: "Eins",
      edition_of: 9,
      language: "de",
      campaign_slug: "",
      campaign: "",
    };
    const { user, calls } = show({
      "GET /api/blogs/{blog}/posts": { rows: [edition], total: 1, states: {} },
      "GET /api/blogs/{blog}/posts/{post_id}": { ...POST, id: 9, title: "One" },
      "GET /api/blogs/{blog}/posts/{post_id}/editions": [],
      "GET /api/blogs/{blog}/posts/{post_id}/editions/{language}": {
        side_by_side: true,
        language: "de",
        direction: "ltr",
        behind: 0,
        blocks: [{ part: "title", before: "One", after: "Eins", changed: false, fault: "numbers", kept: [] }],
      },
    });
    const row = await screen.findByRole("row", { name: /Eins/ });
    expect(row.textContent).toContain("a number is missing or another one");
    expect(screen.getByText(/edition in German/)).toBeTruthy();
    expect(calls.some(({ what }) => what.endsWith("/decision"))).toBe(false);
    await user.click(screen.getByRole("radio", { name: "As the blog shows it" }));
    expect(screen.queryByRole("table")).toBeNull();
  });

  it("has the next post ready before it is asked for", async () => {
    const { calls } = show();
    await shownPost(1);
    await waitFor(() =>
      expect(calls.some(({ what, path }) => what.endsWith("/preview") && path.post_id === 2)).toBe(true),
    );
  });

  it("decides about several that are marked", async () => {
    const { user, calls } = show();
    await shownPost(1);
    await user.keyboard(" ");
    await user.keyboard(" ");
    expect(screen.getByText(/3 posts held, 2 marked/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: /^Publish 2 posts/ }));
    await shownPost(3);
    expect(last(calls, MANY).body).toEqual({ action: "moved", to: "published", seen: "held", ids: [1, 2] });
  });

  it("does nothing by keys while something is typed", async () => {
    const { user, calls } = show();
    await shownPost(1);
    await user.type(screen.getByLabelText("Find a post"), "px");
    expect(calls.some(({ what }) => what === MOVE)).toBe(false);
  });

  it("leaves the keys of the browser, of dialogs and of buttons to them", async () => {
    const { user, calls } = show();
    await shownPost(1);
    await user.keyboard("{Control>}p{/Control}{Meta>}x{/Meta}{Alt>}d{/Alt}");
    within(screen.getByRole("list", { name: "Held posts" }))
      .getByRole("button", { name: /Third/ })
      .focus();
    await user.keyboard(" ");
    await shownPost(3);
    expect(screen.queryByText(/marked/)).toBeNull();
    await user.keyboard("?");
    const dialog = await screen.findByRole("dialog");
    fireEvent.keyDown(dialog, { key: "p" });
    await user.keyboard("{Escape}");
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(calls.some(({ what }) => what === MOVE)).toBe(false);
  });

  it("decides nothing for a person who may only look, and says who may", async () => {
    const { user, calls } = show({ "GET /api/blogs": [{ slug: "b", title: "B", role: "viewer" }] });
    await shownPost(1);
    await user.keyboard("pxd ");
    expect((await screen.findAllByText(/decide about posts. Ask one of them/)).length).toBeGreaterThan(0);
    await user.keyboard("?");
    expect(screen.queryByText("P", { selector: "button kbd" })).toBeNull();
    const keys = within(await screen.findByRole("dialog", { name: "Keys" }));
    expect([keys.queryByText("publish"), keys.getByText("next post; this one is skipped")]).toEqual([
      null,
      expect.anything(),
    ]);
    await user.keyboard("{Escape}");
    expect(calls.some(({ what }) => what === MOVE || what === MANY)).toBe(false);
    await user.keyboard("j");
    await shownPost(2);
  });

  it("brings a post back that somebody else has decided about, and says who", async () => {
    const told = "Edda has decided about “First” meanwhile: it is published now. Nothing was changed.";
    const { user } = show({ [MOVE]: new ProblemError(409, "Conflict", told) });
    await shownPost(1);
    await user.keyboard("x");
    expect(await screen.findByText(told)).toBeTruthy();
    const list = screen.getByRole("list", { name: "Held posts" });
    await waitFor(() => expect(within(list).getByText("First")).toBeTruthy());
  });

  it("names its keys", async () => {
    const { user } = show();
    await shownPost(1);
    await user.keyboard("?");
    expect(within(await screen.findByRole("dialog")).getByText("mark it, and go on")).toBeTruthy();
  });
});

describe("what else the review desk knows", () => {
  it("says what the source allows, what the post is like, and what was taken out", async () => {
    show({
      [ALIKE]: [
        {
          id: 9,
          title: "Nine cameras",
          state: "published",
          source: "Wire",
          date: "2026-11-24T12:00:00Z",
          likeness: 0.74,
          passages: ["seen by nine cameras"],
        },
      ],
    });
    await shownPost(1);
    expect(screen.getByText("The source allows an excerpt of 80 words.")).toBeTruthy();
    const like = within(await screen.findByRole("region", { name: "Like it" }));
    expect(like.getByText("74 %")).toBeTruthy();
    expect(like.getByText("seen by nine cameras").tagName).toBe("MARK");
    const out = within(await screen.findByRole("region", { name: "Taken out" }));
    expect(out.getByText("Read more at our site.").tagName).toBe("DEL");
  });

  it("names posts that may tell the same event, and the words in both", async () => {
    show({
      [SAME_EVENT]: [
        {
          id: 8,
          title: "Mill on fire",
          state: "published",
          source: "Wire",
          date: "2026-11-24T12:00:00Z",
          likeness: 0.29,
          words: ["Brandt", "2011"],
        },
      ],
    });
    await shownPost(1);
    const events = within(await screen.findByRole("region", { name: "Perhaps the same event" }));
    expect(events.getByRole("link", { name: "Mill on fire" }).getAttribute("href")).toBe("/desk/b/posts/8");
    expect(events.getByText(/both have/).textContent).toBe("In other words; both have Brandt, 2011.");
  });

  it("is narrowed by reason and age", async () => {
    const { user, calls, address } = show();
    await shownPost(1);
    await pick(user, "Reason", /no picture|hold.no_picture|\(2\)/);
    expect(address()).toContain("reason=hold.no_picture");
    await pick(user, "Age", "older than a week");
    const { query } = last(calls, "GET /api/blogs/{blog}/posts");
    expect(query).toMatchObject({ reason: "hold.no_picture", state: "held" });
    expect(String(query.until)).toMatch(/^\d{4}-\d\d-\d\d$/);
  });

  it("schedules by a key", async () => {
    const { user, calls } = show();
    await shownPost(1);
    await user.keyboard("s");
    const dialog = within(await screen.findByRole("dialog"));
    await user.click(dialog.getByRole("button", { name: "Schedule" }));
    expect(last(calls, MOVE).body).toMatchObject({ state: "scheduled", seen: "held" });
    expect(String((last(calls, MOVE).body as { date: string }).date)).toMatch(/Z$/);
  });

  it("refuses with a reason, and opens the bench with the rule made of it", async () => {
    const { user, calls, address } = show();
    await shownPost(1);
    await user.keyboard("r");
    const dialog = within(await screen.findByRole("dialog"));
    await user.type(dialog.getByLabelText(/^Reason/), "an advertisement");
    await user.click(dialog.getByLabelText("Refuse what has these words in its title"));
    await user.type(dialog.getByLabelText("Words"), "offer, sale");
    await user.click(dialog.getByRole("button", { name: "Refuse and open the bench" }));
    expect(last(calls, MOVE).body).toMatchObject({ state: "refused", why: "an advertisement" });
    await waitFor(() => expect(address()).toContain("/desk/b/campaigns/sky?rule="));
    const rule = JSON.parse(new URLSearchParams(address()?.split("?")[1]).get("rule") ?? "null");
    expect(rule).toMatchObject({
      kind: "terms",
      mode: "none",
      field: "title",
      terms: ["offer", "sale"],
      title: "an advertisement",
    });
  });

  it("makes a rule of length", async () => {
    const { user, address } = show();
    await shownPost(1);
    await user.keyboard("r");
    await user.click(await screen.findByLabelText("Refuse what has no more than 40 words"));
    await user.click(screen.getByRole("button", { name: "Refuse and open the bench" }));
    await waitFor(() => expect(decodeURIComponent(address() ?? "")).toContain('"at_least":41'));
  });

  it("takes back what the person did last, and nothing of others", async () => {
    const { user, calls } = show({
      "GET /api/blogs/{blog}/post-changes": [
        { ...CHANGE, id: 8, by: "Edda" },
        { ...CHANGE, id: 7, taken_back: true },
        { ...CHANGE, id: 6 },
      ],
      "POST /api/blogs/{blog}/post-changes/{number}/take-back": CHANGE,
    });
    await shownPost(1);
    await user.keyboard("u");
    expect(await screen.findByText("Taken back: published 2 posts.")).toBeTruthy();
    expect(last(calls, "POST /api/blogs/{blog}/post-changes/{number}/take-back").path).toMatchObject({
      number: 6,
    });
  });

  it("leads to the editor by a key", async () => {
    const { user, address } = show();
    await shownPost(1);
    await user.keyboard("e");
    expect(address()).toBe("/desk/b/posts/1/edit");
  });
});
