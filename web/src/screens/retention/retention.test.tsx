import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { answering, last, screenAt } from "@/testing/server";
import Retention from "./Retention";

const SAVE = "PUT /api/blogs/{blog}/keeping";
const FREED = "POST /api/blogs/{blog}/keeping/freed";
const NONE = { traces: null, readings: null, payloads: null, changes: null, bin: null, audit: null };
const KEPT = { days: 90, usual: 90, least: 1, most: 3650, is_own: false };

describe("the retention of a blog", () => {
  const show = (answers: Record<string, unknown> = {}) => {
    const state = {
      version: 3,
      keeping: NONE,
      records: [
        { ...KEPT, record: "traces" },
        { ...KEPT, record: "audit", usual: 1095, days: 1095, least: 366 },
      ],
    };
    const calls = answering({
      "GET /api/blogs/{blog}/keeping": state,
      [FREED]: (call: { body: { keeping: { traces: number | null } } }) => [
        { record: "traces", number: call.body.keeping.traces ? 1200 : 0, size: 3_000_000 },
        { record: "audit", number: 100_000, size: 5000 },
      ],
      [SAVE]: { ...state, version: 4 },
      ...answers,
    });
    return { calls, ...screenAt("/desk/b/retention", "/desk/:blog/retention", <Retention />) };
  };
  const row = async (title: string) =>
    (await screen.findByRole("heading", { name: title })).closest("li") as HTMLElement;

  it("says what fewer days free before they are saved", async () => {
    const { user, calls } = show();
    const traces = await row("Traces of items without a post");
    await within(traces).findByText("nothing is older");
    const days = within(traces).getByLabelText(/^Days/);
    await user.clear(days);
    await user.type(days, "30");
    await within(traces).findByText(/frees 1,200 records, about 3/);
    expect(calls.some(({ what }) => what === SAVE)).toBe(false);
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, SAVE).body).toEqual({ keeping: { ...NONE, traces: 30 }, begun: 3 });
  });

  it("counts no further than the server, and says so", async () => {
    show();
    expect((await row("Audit list")).textContent).toContain("being counted");
    await waitFor(async () => expect((await row("Audit list")).textContent).toContain("at least 100,000"));
  });

  it("takes no number that is out of range, and goes back to the usual one", async () => {
    const { user, calls } = show();
    const audit = await row("Audit list");
    const days = within(audit).getByLabelText(/^Days/);
    await user.clear(days);
    await user.type(days, "365");
    expect((screen.getByRole("button", { name: "Save" }) as HTMLButtonElement).disabled).toBe(true);
    await user.clear(days);
    await user.type(days, "700");
    await user.click(within(audit).getByRole("button", { name: "As usual" }));
    expect(audit.textContent).toContain("as usual");
    expect(calls.some(({ what }) => what === SAVE)).toBe(false);
  });
});
