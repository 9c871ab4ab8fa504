import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Decision, ProofItem } from "@/api/proofs";
import { answering, last, screenAt } from "@/testing/server";
import { LetThrough } from "./LetThrough";

const LET = "POST /api/blogs/{blog}/campaigns/{slug}/let-through";

function show(verdict: string, sample: number | null = null, role = "editor") {
  const calls = answering({
    "GET /api/blogs": [{ slug: "b", title: "B", role }],
    [LET]: { posts: [5], states: { held: 1 }, left: {}, change: 8 },
  });
  const asked = { item: 7, over: { sample } } as ProofItem;
  const element = <LetThrough blog="b" slug="sky" decision={{ verdict } as Decision} asked={asked} />;
  return { calls, ...screenAt("/desk/b/bench", "/desk/:blog/bench", element) };
}

const button = () => screen.queryByRole("button", { name: "Let this one through" });

describe("letting one item through", () => {
  it("makes its post, and says what it is", async () => {
    const { user, calls } = show("duplicate");
    await user.click(await screen.findByRole("button", { name: "Let this one through" }));
    expect(last(calls, LET).body).toEqual({ items: [7] });
    expect(await screen.findByText("Let through: 1 post (1 held).")).toBeTruthy();
  });

  it("is not offered for what becomes a post, for samples, or to those who may not", async () => {
    for (const [verdict, sample, role] of [
      ["publish", null, "editor"],
      ["refused", 3, "editor"],
      ["refused", null, "viewer"],
    ] as const) {
      const { unmount } = show(verdict, sample, role);
      await waitFor(() => expect(button()).toBeNull());
      unmount();
    }
  });
});
