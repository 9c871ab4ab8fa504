import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Proof, ProofAsked } from "@/api/proofs";
import { answering, last, screenAt } from "@/testing/server";
import { proofOf, row } from "./bench-world";
import { TextsWanted } from "./TextsWanted";

const ASK = "POST /api/blogs/{blog}/campaigns/{slug}/proof/texts";
const TASKS = "GET /api/blogs/{blog}/tasks";
const COST = {
  items: 1,
  texts: 3,
  characters: 400,
  costs: [
    { service: "machine", name: "Machine", texts: 3, characters: 400, price: "0.0080", currency: "EUR" },
  ],
};

function show(item: number | null, role = "editor") {
  const waits = { ...row(1, "waiting"), reason: { code: "shape.waits", rule: "", data: {} } };
  const proof = { ...proofOf([waits as never, row(2, "publish")]), as_of: "2026-11-24T12:00:00Z" } as Proof;
  const calls = answering({
    "GET /api/blogs": [{ slug: "b", title: "B", role }],
    [ASK]: (call: { body: { go: boolean } }) => ({ ...COST, task: call.body.go ? 5 : null }),
    [TASKS]: [{ id: 5, kind: "services", done: 1, total: 3, ended_at: null, failure: "" }],
  });
  const asked = { document: {}, over: {}, against: null } as ProofAsked;
  const element = <TextsWanted blog="b" slug="sky" asked={asked} proof={proof} item={item} />;
  return { calls, ...screenAt("/desk/b/bench", "/desk/:blog/bench", element) };
}

describe("texts that a proof waits for", () => {
  it("are asked for after their cost was said", async () => {
    const { calls, user } = show(1);
    await user.click(await screen.findByRole("button", { name: "Ask for its text" }));
    expect(await screen.findByText(/400 characters to “Machine”, less than 0.01 EUR/)).toBeTruthy();
    expect(last(calls, ASK).body).toMatchObject({ item: 1, go: false });
    await user.click(screen.getByRole("button", { name: "Ask" }));
    await waitFor(() => expect(last(calls, ASK).body).toMatchObject({ item: 1, go: true }));
    expect(await screen.findByText("1 of 3 texts answered")).toBeTruthy();
  });

  it("are not asked for where a person cancels", async () => {
    const { calls, user } = show(null);
    await user.click(await screen.findByRole("button", { name: "Ask for all" }));
    await user.click(await screen.findByRole("button", { name: "Cancel" }));
    expect(calls.filter(({ what }) => what === ASK)).toHaveLength(1);
  });

  it("say nothing where none is wanted, and reviewers may not ask", async () => {
    show(2);
    expect(screen.queryByText(/Its text is not there yet/)).toBeNull();
    show(1, "reviewer");
    expect(await screen.findByText(/Its text is not there yet/)).toBeTruthy();
    expect(screen.queryByRole("button")).toBeNull();
  });
});
