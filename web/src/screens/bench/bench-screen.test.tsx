import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { Proof, ProofAsked } from "@/api/proofs";
import { PROOF } from "@/testing/bench";
import { type Call, last } from "@/testing/server";
import { scrolled } from "@/testing/virtual";
import {
  addTerm,
  BASE,
  CAMPAIGN,
  DECISION,
  EDITED,
  ITEM,
  PROVE,
  proofOf,
  RULES,
  RUN,
  SAVE,
  SAVED,
  show,
} from "./bench-world";

describe("the bench", () => {
  it("proves the saved rules at once, and says how many stay at each stage", async () => {
    const { calls } = show();
    const funnel = await screen.findByRole("region", { name: "Funnel of the proof" });
    const sift = await within(funnel).findByRole("button", { name: /Sift.*unwanted term 1/ });
    expect(sift.textContent).toContain("2");
    expect(last(calls, PROVE).body).toEqual({
      document: RULES,
      over: { days: 30, source: "", items: [], sample: null },
      against: null,
      known: "",
      bench: expect.any(String),
      turn: expect.any(Number),
    });
  });

  it("asks for what differs from the last proof, and puts it on top of that", async () => {
    const { user, calls } = show({
      [PROVE]: ({ body }: Call) =>
        (body as { known: string }).known
          ? { ...EDITED, token: "second", differs_from: "first", items: EDITED.items.slice(2) }
          : SAVED,
    });
    await screen.findByRole("radio", { name: "Kept 2" });
    await addTerm(user, "advert");
    expect(await screen.findByRole("radio", { name: "Kept 3" })).toBeTruthy();
    expect(last(calls, PROVE).body).toMatchObject({ known: "first" });
    // The server keeps to the numbers, since it may begin the requests in another order.
    const turns = calls
      .filter((call) => call.what === PROVE)
      .map((call) => (call.body as { turn: number }).turn);
    expect(turns).toEqual([...turns].sort((one, other) => one - other));
    expect(new Set(turns).size).toBe(turns.length);
    expect(screen.getByRole("radio", { name: "All 3" })).toBeTruthy();
  });

  it("opens a stage with what left there, even when it is opened before the proof has come", async () => {
    let come: (proof: Proof) => void = () => {};
    const { user } = show({ [PROVE]: () => new Promise<Proof>((resolve) => (come = resolve)) });
    const funnel = await screen.findByRole("region", { name: "Funnel of the proof" });
    await user.click(within(funnel).getByRole("button", { name: /^Release/ }));
    come(SAVED);
    const waiting = await screen.findByRole("radio", { name: "Not published yet 1" });
    expect(waiting.getAttribute("aria-checked")).toBe("true");
    await user.click(within(funnel).getByRole("button", { name: /^Place/ }));
    const kept = screen.getByRole("radio", { name: "Kept 2" });
    expect(kept.getAttribute("aria-checked")).toBe("true");
  });

  it("shows the trace of the first item, and of another that is chosen", async () => {
    const { user, calls } = show();
    await screen.findByText(/full text of 100 words/);
    expect(last(calls, ITEM).body).toMatchObject({ item: 1, as_of: PROOF.as_of });
    await user.click(screen.getByText("Story 2"));
    await waitFor(() => expect(last(calls, ITEM).body).toMatchObject({ item: 2 }));
  });

  it("follows an edit with a new proof, and says what it would change", async () => {
    const { user, calls } = show();
    await addTerm(user, "renewals");
    expect(await screen.findByText(/1 item changes: 1 now kept/)).toBeTruthy();
    const asked = last(calls, PROVE).body as ProofAsked;
    expect(asked.document.sift.rules[0]).toMatchObject({ terms: ["sponsored", "renewals"] });
    expect(screen.getByText("now kept, was refused")).toBeTruthy();
    expect(screen.getByText(/1 change not saved/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Run now" }).hasAttribute("disabled")).toBe(true);
  });

  it("takes edits back and forth, by the keyboard as well", async () => {
    const { user } = show();
    await addTerm(user, "renewals");
    await user.click(await screen.findByRole("button", { name: "Undo last" }));
    expect(screen.queryByText(/not saved/)).toBeNull();
    (document.activeElement as HTMLElement | null)?.blur();
    await user.keyboard("{Control>}{Shift>}z{/Shift}{/Control}");
    expect(await screen.findByText(/1 change not saved/)).toBeTruthy();
    await user.keyboard("{Control>}z{/Control}");
    expect(screen.queryByText(/not saved/)).toBeNull();
  });

  it("discards all edits, which can be taken back as well", async () => {
    const { user } = show();
    await addTerm(user, "renewals");
    await addTerm(user, "horoscope");
    await user.click(screen.getByRole("button", { name: "Discard" }));
    expect(screen.queryByText("renewals")).toBeNull();
  });

  it("saves the rules on the revision they began from", async () => {
    const { user, calls } = show({
      [SAVE]: ({ body }: Call) => ({ ...CAMPAIGN, revision: 4, document: (body as ProofAsked).document }),
    });
    await addTerm(user, "renewals");
    await screen.findByText(/1 item changes/);
    await user.click(screen.getByRole("button", { name: "Save as revision 4" }));
    expect(last(calls, SAVE).body).toMatchObject({ base: 3, note: "" });
    expect(await screen.findByText("Saved as revision 4.")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Save as revision 5" })).toBeTruthy();
    expect(screen.queryByText(/not saved/)).toBeNull();
  });

  it("keeps the edits when somebody else has saved meanwhile", async () => {
    const { user } = show({ [SAVE]: new ProblemError(409, "No", "There is a revision 4 already.") });
    await addTerm(user, "renewals");
    await screen.findByText(/1 item changes/);
    await user.click(screen.getByRole("button", { name: "Save as revision 4" }));
    expect(await screen.findByText("There is a revision 4 already.")).toBeTruthy();
    expect(screen.getByText("renewals")).toBeTruthy();
  });

  it("keeps the last proof in sight while the rules do not hold", async () => {
    const { user } = show({
      [PROVE]: ({ body }: Call) =>
        JSON.stringify((body as ProofAsked).document) === JSON.stringify(RULES)
          ? SAVED
          : new ProblemError(422, "The rules do not hold", "sift.rules.0.terms: no", [
              { path: "sift.rules.0.terms", message: "this has no word in it", hint: "" },
            ]),
    });
    await screen.findByText("Story 2");
    await addTerm(user, "renewals");
    expect(await screen.findByText(/The rules have an error/)).toBeTruthy();
    const card = screen.getByRole("group", { name: "rule words" });
    expect(within(card).getByRole("alert").textContent).toBe("this has no word in it");
    // From another stage the place of the fault is opened first.
    await user.click(screen.getByRole("button", { name: /^Place/ }));
    expect(screen.queryByRole("group", { name: "rule words" })).toBeNull();
    await user.click(screen.getByRole("button", { name: "Sift, rule words" }));
    const again = await screen.findByRole("group", { name: "rule words" });
    await waitFor(() => expect(again.contains(document.activeElement)).toBe(true));
    expect(screen.getByText(/shows the last proof that could be made/)).toBeTruthy();
    expect(screen.getByText("Story 2")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Save as revision 4" }).hasAttribute("disabled")).toBe(true);
  });

  it("opens the rules of a stage with what left there, or what stayed", async () => {
    const { user } = show();
    await screen.findByText("Story 1");
    const funnel = screen.getByRole("region", { name: "Funnel of the proof" });
    await user.click(within(funnel).getByRole("button", { name: /^Sift/ }));
    expect(screen.getByText("Story 3")).toBeTruthy();
    expect(screen.queryByText("Story 2")).toBeNull();
    await user.click(within(funnel).getByRole("button", { name: /^Place/ }));
    expect(screen.getByText("Story 2")).toBeTruthy();
    expect(screen.queryByText("Story 3")).toBeNull();
    expect(screen.getByRole("group", { name: "Byline" })).toBeTruthy();
  });

  it("goes through the items by the keyboard, and proves those that are picked", async () => {
    const { user, calls } = show();
    await screen.findByText("Story 1");
    scrolled.mockClear();
    screen.getByRole("listbox", { name: "Items" }).focus();
    await user.keyboard("{ArrowDown}x{ArrowDown}x");
    expect(scrolled.mock.calls).toEqual([[1], [2]]);
    expect(screen.getByText(/2 items picked/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Proof with only these items" }));
    await waitFor(() => expect((last(calls, PROVE).body as ProofAsked).over.items).toEqual([2, 3]));
  });

  it("keeps stage, list and item in the address, and opens there again", async () => {
    const { user, address } = show();
    await user.click(await screen.findByText("Story 2"));
    await user.click(screen.getByRole("radio", { name: "Kept 2" }));
    expect(address()).toBe("/desk/b/campaigns/sky?stage=sift&items=kept&item=2");
    cleanup();
    const again = show({}, "/desk/b/campaigns/sky?stage=place&items=kept&item=2");
    expect(await screen.findByRole("group", { name: "Byline" })).toBeTruthy();
    await waitFor(() => expect(last(again.calls, ITEM).body).toMatchObject({ item: 2 }));
    expect(screen.getByRole("radio", { name: "Kept 2" }).getAttribute("aria-checked")).toBe("true");
  });

  it("shows an item before and after a step, as text and as HTML", async () => {
    const note = { stage: "shape", code: "step.tidy", rule: "tidy", against: false, data: { empty: 1 } };
    const untouched = { ...note, code: "step.nothing", rule: "cut", data: {} };
    const { user, calls } = show({
      [ITEM]: { ...DECISION, trace: [note, untouched] },
      [`POST ${BASE}/proof/step`]: {
        before: { title: "Story 1", html: "<p>Text</p><p></p>", text: "Text" },
        after: { title: "Story 1", html: "<p>Text</p>", text: "Text" },
      },
    });
    // A step that changed nothing has nothing to show.
    await user.click(await screen.findByRole("button", { name: "before and after" }));
    const dialog = await screen.findByRole("dialog", { name: "Before and after “tidy”" });
    expect(await within(dialog).findByText(/What readers see of the text stays the same/)).toBeTruthy();
    await user.click(within(dialog).getByRole("radio", { name: "HTML" }));
    const before = within(dialog).getByRole("region", { name: "Before" });
    expect(before.querySelector("mark")?.textContent).toContain("<p></p>");
    expect(last(calls, `POST ${BASE}/proof/step`).body).toMatchObject({ item: 1, step: "tidy" });
  });

  it("sorts the items by a column and shows one source, and keeps both in the address", async () => {
    const titles = () =>
      screen.getAllByRole("option").map((one) => one.textContent?.match(/Story \d/)?.[0] ?? "");
    const two = SAVED.items.map((row) => (row.id === 2 ? { ...row, source: "Wire" } : row));
    const { user, address } = show({ [PROVE]: proofOf(two) });
    await user.click(await screen.findByText("Story 2"));
    await user.click(screen.getByRole("button", { name: "Words" }));
    expect(titles()).toEqual(["Story 3", "Story 2", "Story 1"]);
    expect(address()).toContain("sort=-words");
    await user.click(screen.getByRole("combobox", { name: "Source" }));
    await user.click(screen.getByRole("option", { name: "Wire" }));
    await waitFor(() => expect(titles()).toEqual(["Story 2"]));
    expect(address()).toContain("source=Wire");
    cleanup();
    show({ [PROVE]: proofOf(two) }, "/desk/b/campaigns/sky?items=all&source=Club&sort=-words");
    await waitFor(() => expect(titles()).toEqual(["Story 3", "Story 1"]));
  });

  it("runs the saved rules and leads to the run", async () => {
    const { user, address } = show({ [RUN]: { id: 9 } });
    await user.click(await screen.findByRole("button", { name: "Run now" }));
    await waitFor(() => expect(address()).toBe("/desk/b/runs/9"));
  });

  it("says what to do where nothing is captured", async () => {
    show({ [PROVE]: proofOf([]) });
    expect(await screen.findByText("No captured items")).toBeTruthy();
  });

  it("says that there is no such campaign", async () => {
    show({ [`GET ${BASE}`]: new ProblemError(404, "Not found", "This blog has no campaign “sky”.") });
    expect((await screen.findByRole("alert")).textContent).toContain("no campaign");
  });
});
