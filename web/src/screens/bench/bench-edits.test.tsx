import { act, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { ProofAsked } from "@/api/proofs";
import { drafts } from "@/lib/editing/draft-store";
import { type Call, last } from "@/testing/server";
import { addTerm, BASE, CAMPAIGN, PROVE, RULES, SAVE, show } from "./bench-world";

const THEIRS = {
  ...CAMPAIGN,
  revision: 4,
  saved_by: "Edda",
  document: { ...RULES, release: { ...RULES.release, mode: "draft" as const } },
};
const kept = () => drafts().take<typeof RULES>("", "campaign b/sky");
const MINE = { ...RULES, place: { ...RULES.place, byline: "Night desk" } };

function times(calls: readonly Call[], what: string): number {
  return calls.filter((call) => call.what === what).length;
}

describe("edits that are not saved", () => {
  it("are asked about before the person leaves, and kept where they stay", async () => {
    const { user, router, address } = show();
    await addTerm(user, "renewals");
    await act(() => router.navigate("/desk/b/posts"));
    await user.click(await screen.findByRole("button", { name: "Stay" }));
    expect(address()).toContain("/desk/b/campaigns/sky");
    expect(screen.getByText("renewals")).toBeTruthy();
    await act(() => router.navigate("/desk/b/posts"));
    await user.click(await screen.findByRole("button", { name: "Leave" }));
    await waitFor(() => expect(address()).toBe("/desk/b/posts"));
  });

  it("are not asked about where there are none", async () => {
    const { router, address } = show();
    await screen.findByText("Story 2");
    await act(() => router.navigate("/desk/b/posts"));
    expect(address()).toBe("/desk/b/posts");
  });

  it("hold back a reload or a closed tab", async () => {
    const { user } = show();
    await screen.findByText("Story 2");
    const leaving = () => window.dispatchEvent(new Event("beforeunload", { cancelable: true }));
    expect(leaving()).toBe(true);
    await addTerm(user, "renewals");
    expect(leaving()).toBe(false);
  });

  it("are kept as a draft, and are back on the bench on return", async () => {
    const { user, unmount } = show();
    await addTerm(user, "renewals");
    unmount();
    await waitFor(async () =>
      expect((await kept())?.now.sift.rules[0]).toMatchObject({ terms: ["sponsored", "renewals"] }),
    );
    const again = show();
    expect(await screen.findByText(/were not saved. They are back/)).toBeTruthy();
    expect(screen.getByText("renewals")).toBeTruthy();
    await again.user.click(screen.getByRole("button", { name: "Discard these edits" }));
    expect(screen.queryByText("renewals")).toBeNull();
    await waitFor(async () => expect(await kept()).toBeNull());
  });

  it("that are discarded can be brought back", async () => {
    const { user } = show();
    await addTerm(user, "renewals");
    await user.click(screen.getByRole("button", { name: "Discard" }));
    expect(screen.queryByText("renewals")).toBeNull();
    await user.keyboard("{Control>}z{/Control}");
    expect(await screen.findByText("renewals")).toBeTruthy();
  });

  it("are not touched by undoing inside a field", async () => {
    const { user } = show();
    await addTerm(user, "renewals");
    screen.getByLabelText("Find").focus();
    await user.keyboard("{Control>}z{/Control}");
    expect(screen.getByText("renewals")).toBeTruthy();
    const editor = document.body.appendChild(document.createElement("div"));
    editor.setAttribute("contenteditable", "true");
    fireEvent.keyDown(editor, { key: "z", ctrlKey: true, bubbles: true });
    expect(screen.getByText("renewals")).toBeTruthy();
    editor.remove();
  });
});

describe("saving", () => {
  it("is asked for once, however fast the button is pressed", async () => {
    const { user, calls } = show({
      [SAVE]: ({ body }: Call) => ({ ...CAMPAIGN, revision: 4, document: (body as ProofAsked).document }),
    });
    await addTerm(user, "renewals");
    await screen.findByText(/1 item changes/);
    const save = screen.getByRole("button", { name: "Save as revision 4" });
    // Both clicks come before the screen is drawn again.
    act(() => {
      save.click();
      save.click();
    });
    await screen.findByText("Saved as revision 4.");
    expect(times(calls, SAVE)).toBe(1);
    expect(times(calls, PROVE)).toBeGreaterThan(2);
  });

  it("goes by Ctrl+S, and only where there is something to save and the person may", async () => {
    const answer = ({ body }: Call) => ({
      ...CAMPAIGN,
      revision: 4,
      document: (body as ProofAsked).document,
    });
    const { user, calls } = show({ [SAVE]: answer });
    await screen.findByText("Story 2");
    await user.keyboard("{Control>}s{/Control}");
    expect(times(calls, SAVE)).toBe(0);
    await addTerm(user, "renewals");
    await screen.findByText(/1 item changes/);
    await user.keyboard("{Control>}s{/Control}");
    await screen.findByText("Saved as revision 4.");
    expect(times(calls, SAVE)).toBe(1);
  });

  it("does not go by Ctrl+S for a viewer", async () => {
    const { user, calls } = show({ "GET /api/blogs": [{ slug: "b", title: "B", role: "viewer" }] });
    await addTerm(user, "renewals");
    await screen.findByText(/1 item changes/);
    await user.keyboard("{Control>}s{/Control}");
    expect(times(calls, SAVE)).toBe(0);
  });

  it("runs once, however fast the button is pressed", async () => {
    const RUN = `POST ${BASE}/runs`;
    const { user, calls } = show({ [RUN]: { id: 9 } });
    await user.dblClick(await screen.findByRole("button", { name: "Run now" }));
    expect(times(calls, RUN)).toBe(1);
  });

  it("can be tried again after it failed", async () => {
    const { user, calls } = show({ [SAVE]: new ProblemError(503, "No", "Busy.") });
    await addTerm(user, "renewals");
    await screen.findByText(/1 item changes/);
    await user.click(screen.getByRole("button", { name: "Save as revision 4" }));
    await screen.findByText("Busy.");
    await user.click(screen.getByRole("button", { name: "Save as revision 4" }));
    await waitFor(() => expect(times(calls, SAVE)).toBe(2));
  });
});

describe("what somebody else has saved", () => {
  async function overtaken() {
    let campaign: unknown = CAMPAIGN;
    const shown = show({
      [`GET ${BASE}`]: () => campaign,
      [SAVE]: ({ body }: Call) => ({ ...THEIRS, revision: 5, document: (body as ProofAsked).document }),
    });
    await addTerm(shown.user, "renewals");
    campaign = THEIRS;
    await act(() => shown.queries.invalidateQueries({ queryKey: ["campaign", "b", "sky"], exact: true }));
    await screen.findByText(/Edda has saved the campaign while you were editing it/);
    return shown;
  }

  it("leaves my edits alone, and must be answered before I save", async () => {
    await overtaken();
    expect(screen.getByText("renewals")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Save as revision 5" }).hasAttribute("disabled")).toBe(true);
  });

  it("goes under my edits", async () => {
    const { user, calls } = await overtaken();
    await user.click(screen.getByRole("button", { name: "Put my edits on top of theirs" }));
    expect(await screen.findByText(/Nothing was changed by both/)).toBeTruthy();
    await waitFor(() => expect((last(calls, PROVE).body as ProofAsked).document.release.mode).toBe("draft"));
    await user.click(screen.getByRole("button", { name: "Save as revision 5" }));
    const sent = last(calls, SAVE).body as ProofAsked & { base: number };
    expect([sent.base, sent.document.release.mode]).toEqual([4, "draft"]);
    expect(sent.document.sift.rules[0]).toMatchObject({ terms: ["sponsored", "renewals"] });
  });

  it("replaces my edits, which can be brought back", async () => {
    const { user } = await overtaken();
    await user.click(screen.getByRole("button", { name: "Take theirs" }));
    expect(screen.queryByText("renewals")).toBeNull();
    await user.keyboard("{Control>}z{/Control}");
    expect(await screen.findByText("renewals")).toBeTruthy();
  });

  it("is followed by my rules as they are", async () => {
    const { user, calls } = await overtaken();
    await user.click(screen.getByRole("button", { name: "Keep mine as it is" }));
    await waitFor(() =>
      expect(screen.getByRole("button", { name: "Save as revision 5" }).hasAttribute("disabled")).toBe(false),
    );
    await user.click(screen.getByRole("button", { name: "Save as revision 5" }));
    const sent = last(calls, SAVE).body as ProofAsked & { base: number };
    expect([sent.base, sent.document.release.mode]).toEqual([4, RULES.release.mode]);
  });

  it("is taken without a question where nothing was edited", async () => {
    let campaign: unknown = CAMPAIGN;
    const { queries } = show({ [`GET ${BASE}`]: () => campaign });
    await screen.findByText("Story 2");
    campaign = THEIRS;
    await act(() => queries.invalidateQueries({ queryKey: ["campaign", "b", "sky"], exact: true }));
    expect(await screen.findByText(/revision 4/)).toBeTruthy();
    expect(screen.queryByText(/has saved the campaign/)).toBeNull();
  });

  it("is told of when a draft of an earlier revision comes back", async () => {
    const left = { begun: 2, saved: RULES, now: MINE, at: "2026-11-24T12:00:00Z" };
    await drafts().keep("", "campaign b/sky", left);
    show();
    const alert = await screen.findByText(/has saved the campaign while you were editing it/);
    expect(within(alert.closest("[role=alert]") as HTMLElement).getAllByRole("button").length).toBe(3);
  });
});
