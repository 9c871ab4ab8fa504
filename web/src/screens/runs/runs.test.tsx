import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { DecisionRow, Run } from "@/api/runs";
import { answering, last, screenAt } from "@/testing/server";
import Decisions from "./Decisions";
import RunPage from "./RunPage";
import Runs from "./Runs";

const LIST = "GET /api/blogs/{blog}/runs";
const ONE = "GET /api/blogs/{blog}/runs/{run_id}";
const DECISIONS = "GET /api/blogs/{blog}/runs/{run_id}/decisions";
const STOP = "POST /api/blogs/{blog}/runs/{run_id}/stop";

const RUN: Run = {
  id: 4,
  campaign: "Sky",
  campaign_slug: "sky",
  revision: 2,
  state: "done",
  asked_at: "2026-11-24T12:00:00Z",
  started_by: "Mira",
  stop_asked: false,
  failure: "",
  sources: 2,
  sources_read: 2,
  fresh: 5,
  to_decide: 5,
  texts_waiting: 0,
  verdicts: { publish: 3, refused: 2 },
  readings: [],
} as unknown as Run;
const ROW: DecisionRow = {
  id: 9,
  title: "A fireball",
  source: "Club",
  dated: "2026-11-24T11:00:00Z",
  verdict: "publish",
  reason: null,
  post_slug: "a-fireball",
} as unknown as DecisionRow;

function page(run: Run = RUN, rows: DecisionRow[] = [ROW], answers: Record<string, unknown> = {}) {
  const calls = answering({ [ONE]: run, [DECISIONS]: { rows, total: rows.length }, ...answers });
  return { calls, ...screenAt("/desk/b/runs/4", "/desk/:blog/runs/:id", <RunPage />) };
}

describe("the list of runs", () => {
  it("says what each made, and leads to it", async () => {
    answering({ [LIST]: { rows: [RUN], total: 1, under_way: 0 } });
    screenAt("/desk/b/runs", "/desk/:blog/runs", <Runs />);
    const row = (await screen.findAllByRole("row")).at(-1) as HTMLElement;
    expect(row.textContent).toContain("Sky");
    expect(row.textContent).toContain("revision 2");
    expect(within(row).getAllByRole("link")[0]?.getAttribute("href")).toBe("/desk/b/runs/4");
  });

  it("counts what goes out by date or in private as well, and says who or what began it", async () => {
    const verdicts = { publish: 3, scheduled: 2, private: 1, hold: 4, draft: 5 };
    const run = { ...RUN, verdicts, started_by: "", scheduled: true };
    answering({ [LIST]: { rows: [run], total: 1, under_way: 0 } });
    screenAt("/desk/b/runs", "/desk/:blog/runs", <Runs />);
    const cells = (await screen.findAllByRole("cell")).map((cell) => cell.textContent);
    expect(cells.slice(4, 6)).toEqual(["6", "9"]);
    expect(cells.at(-1)).toBe("the schedule");
  });

  it("says how one comes about where there is none", async () => {
    answering({ [LIST]: { rows: [], total: 0, under_way: 0 } });
    screenAt("/desk/b/runs", "/desk/:blog/runs", <Runs />);
    expect(await screen.findByText("Nothing has run yet")).toBeTruthy();
  });
});

describe("the page of a run", () => {
  it("counts what was decided, of how many", async () => {
    page();
    const progress = await screen.findByRole("region", { name: "Progress" });
    expect(progress.textContent).toContain("5 new items from 2 sources · 5 of 5 decided");
    expect(within(progress).getByRole("button", { name: /3.*published/ })).toBeTruthy();
  });

  it("says where it is while it reads and while it waits", async () => {
    const first = page({ ...RUN, state: "waiting" });
    expect(await screen.findByText("Waiting for a worker to take it.")).toBeTruthy();
    first.unmount();
    page({ ...RUN, state: "gathering", sources_read: 1 });
    expect(await screen.findByText(/Reading 1 of 2 sources/)).toBeTruthy();
  });

  it("narrows the decisions to one verdict and back", async () => {
    const { user, calls } = page();
    await user.click(await screen.findByRole("button", { name: /2.*refused/ }));
    expect(last(calls, DECISIONS).query).toMatchObject({ verdict: "refused" });
    expect(screen.getByRole("heading", { name: "Items refused" })).toBeTruthy();
    await user.click(screen.getByRole("button", { name: /2.*refused/ }));
    expect(screen.getByRole("heading", { name: "Items decided" })).toBeTruthy();
  });

  it("leads from a published item to the blog", async () => {
    page();
    const link = await screen.findByRole("link", { name: "On the blog" });
    expect(link.getAttribute("href")).toBe("/blog/b/a-fireball/");
  });

  it("that was taken back says so, and leads to the posts in the bin", async () => {
    const row = { ...ROW, post: 7, post_slug: "" };
    page({ ...RUN, taken_back_at: "2026-11-25T12:00:00Z" }, [row]);
    expect((await screen.findByRole("link", { name: "Its post" })).getAttribute("href")).toBe(
      "/desk/b/posts/7",
    );
    expect(screen.queryByRole("link", { name: "On the blog" })).toBeNull();
    expect(screen.getByText("taken back")).toBeTruthy();
    expect(screen.getByText(/its posts went into the bin, and its items are undecided again/)).toBeTruthy();
  });

  it("can be stopped while it is under way, and only then", async () => {
    const live: Run = { ...RUN, state: "deciding" };
    const { user, calls } = page(live, [], { [STOP]: { ...live, stop_asked: true } });
    await user.click(await screen.findByRole("button", { name: "Stop" }));
    expect(last(calls, STOP).path).toEqual({ blog: "b", run_id: 4 });
    expect(screen.queryByRole("link", { name: "Read the blog" })).toBeNull();
  });

  it("says what it failed of", async () => {
    page({ ...RUN, state: "failed", failure: "The rules do not hold any more." });
    expect((await screen.findByRole("alert")).textContent).toBe("The rules do not hold any more.");
  });

  it("names the items that wait for texts of services, apart from those over its limit", async () => {
    page({ ...RUN, verdicts: {}, to_decide: 5, texts_waiting: 2 });
    expect(await screen.findByText(/2 items wait for their texts/)).toBeTruthy();
    expect(screen.getByText(/3 items wait for a later run/)).toBeTruthy();
  });

  it("explains why nothing was decided", async () => {
    page({ ...RUN, verdicts: {}, fresh: 0, to_decide: 0 }, []);
    expect(await screen.findByText(/A run decides what no earlier run/)).toBeTruthy();
  });
});

describe("decisions of all runs", () => {
  const FOUND = "GET /api/blogs/{blog}/decisions";

  it("are those of the day and outcome that the address names", async () => {
    const calls = answering({ [FOUND]: { rows: [ROW], total: 1 } });
    const { user, address } = screenAt(
      "/desk/b/decisions?day=2026-11-24&outcome=kept",
      "/desk/:blog/decisions",
      <Decisions />,
    );
    expect(await screen.findByText("A fireball")).toBeTruthy();
    expect(last(calls, FOUND).query).toMatchObject({ day: "2026-11-24", outcome: "kept", search: "" });
    await user.type(screen.getByRole("searchbox"), "moon");
    await waitFor(() =>
      expect(last(calls, FOUND).query).toMatchObject({ search: "moon", day: "2026-11-24" }),
    );
    expect(address()).toContain("outcome=kept");
  });

  it("say when none is found", async () => {
    answering({ [FOUND]: { rows: [], total: 0 } });
    screenAt("/desk/b/decisions", "/desk/:blog/decisions", <Decisions />);
    expect(await screen.findByText("No item was decided yet")).toBeTruthy();
    screenAt("/desk/b/decisions?outcome=refused", "/desk/:blog/decisions", <Decisions />);
    expect(await screen.findByText("No item found")).toBeTruthy();
  });
});

describe("a search of runs", () => {
  it("goes by state and words", async () => {
    const calls = answering({ [LIST]: { rows: [], total: 0, under_way: 0 } });
    const { user } = screenAt("/desk/b/runs", "/desk/:blog/runs", <Runs />);
    expect(await screen.findByText("Nothing has run yet")).toBeTruthy();
    await user.type(screen.getByRole("searchbox"), "comet");
    expect(await screen.findByText("No run found")).toBeTruthy();
    await waitFor(() => expect(last(calls, LIST).query.search).toBe("comet"));
  });
});

describe("taking a run back", () => {
  const BACK = "/api/blogs/{blog}/runs/{run_id}/take-back";

  it("says first what goes, and keeps what people worked on", async () => {
    const { user, calls } = page(RUN, [ROW], {
      [`GET ${BACK}`]: { posts: 3, states: { published: 3 }, edited: 1, commented: 2 },
      [`POST ${BACK}`]: { ...RUN, taken_back_at: "2026-11-24T13:00:00Z" },
    });
    await user.click(await screen.findByRole("button", { name: "Take back…" }));
    const dialog = within(await screen.findByRole("dialog"));
    expect(await dialog.findByText(/3 posts: 3 published/)).toBeTruthy();
    expect(dialog.getByLabelText(/1 edited by hand, 2 with comments of readers/)).toHaveProperty(
      "checked",
      true,
    );
    await user.click(dialog.getByRole("button", { name: "Take it back" }));
    expect(last(calls, `POST ${BACK}`).body).toEqual({ spare: true });
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("is offered once", async () => {
    page({ ...RUN, taken_back_at: "2026-11-24T13:00:00Z" } as Run);
    expect(await screen.findByText("taken back")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Take back…" })).toBeNull();
  });
});

describe("items that the rules have stopped", () => {
  const LET = "POST /api/blogs/{blog}/campaigns/{slug}/let-through";
  const FORGET = "POST /api/blogs/{blog}/campaigns/{slug}/memory/forget";
  const BACK = "POST /api/blogs/{blog}/post-changes/{number}/take-back";
  const stopped = (id: number, campaign: string, verdict: string) =>
    ({
      ...ROW,
      id,
      item: id * 10,
      campaign,
      verdict,
      title: `Item ${id}`,
      post: null,
      post_slug: "",
    }) as DecisionRow;
  const ROWS = [
    ROW,
    stopped(1, "sky", "refused"),
    stopped(2, "sky", "duplicate"),
    stopped(3, "moon", "refused"),
  ];
  const TOLD = { posts: [5, 6], states: { published: 2 }, left: {}, change: 8 };

  it("are let through together, each by its campaign, and can be taken back", async () => {
    const { user, calls } = page(RUN, ROWS, { [LET]: TOLD, [BACK]: { id: 9 } });
    expect((await screen.findAllByRole("checkbox", { name: /^Pick Item/ })).length).toBe(3);
    await user.click(screen.getByRole("checkbox", { name: "Pick what was stopped on this page" }));
    await user.click(screen.getByRole("button", { name: "Let through" }));
    await waitFor(() => expect(calls.filter(({ what }) => what === LET).length).toBe(2));
    const asked = calls.filter(({ what }) => what === LET).map(({ body, path }) => [path.slug, body]);
    expect(asked).toEqual([
      ["sky", { items: [10, 20] }],
      ["moon", { items: [30] }],
    ]);
    expect((await screen.findAllByText("Let through: 2 posts (2 published).")).length).toBeGreaterThan(0);
    const undo = screen.getAllByRole("button", { name: "Undo" })[0] as HTMLElement;
    // The message can be pressed one frame after it has come.
    await waitFor(() => user.click(undo));
    expect(last(calls, BACK).path).toMatchObject({ number: 8 });
  });

  it("are decided again, those alone that are picked", async () => {
    const { user, calls } = page(RUN, ROWS, { [FORGET]: { items: 1 } });
    await user.click(await screen.findByRole("checkbox", { name: "Pick Item 2" }));
    await user.click(screen.getByRole("button", { name: "Decide again" }));
    expect(last(calls, FORGET).body).toEqual({ items: [20] });
    expect(await screen.findByText(/Forgotten: 1 item/)).toBeTruthy();
  });

  it("are not for those who may not", async () => {
    page(RUN, ROWS, { "GET /api/blogs": [{ slug: "b", title: "B", role: "viewer" }] });
    expect(await screen.findByText("Item 1")).toBeTruthy();
    expect(screen.queryByRole("checkbox", { name: /^Pick/ })).toBeNull();
  });
});
