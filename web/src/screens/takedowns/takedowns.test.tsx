import { screen, within } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { ProblemError } from "@/api/client";
import type { Takedown } from "@/api/takedowns";
import { answering, last, screenAt } from "@/testing/server";
import { TakedownDialog } from "./TakedownDialog";
import Takedowns from "./Takedowns";

const ROW: Takedown = {
  id: 3,
  subject: "Club",
  whole_source: true,
  asked_by: "The club",
  reason: "By letter",
  withdrawn: [
    { title: "A fireball", address: "/blog/b/a-fireball/", link: "", date: "2026-11-24T12:00:00Z" },
  ],
  by: "Mira",
  at: "2026-11-24T12:00:00Z",
  lifted_at: null,
};

describe("takedowns", () => {
  it("are a record of what was withdrawn, and can be lifted", async () => {
    const calls = answering({
      "GET /api/blogs/{blog}/takedowns": { rows: [ROW], total: 1 },
      "POST /api/blogs/{blog}/takedowns/{number}/lift": { ...ROW, lifted_at: ROW.at },
    });
    const { user } = screenAt("/desk/b/takedowns", "/desk/:blog/takedowns", <Takedowns />);
    expect(await screen.findByText(/asked by The club/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Which posts" }));
    expect(screen.getByText("/blog/b/a-fireball/")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Allow again" }));
    await user.click(
      within(await screen.findByRole("alertdialog")).getByRole("button", { name: "Allow it" }),
    );
    expect(last(calls, "POST /api/blogs/{blog}/takedowns/{number}/lift").path).toMatchObject({ number: 3 });
  });

  it("need to know who asks", async () => {
    answering({});
    const take = vi.fn().mockResolvedValue(ROW);
    const done = vi.fn();
    const dialog = (
      <TakedownDialog
        blog="b"
        title="Withdraw?"
        text="All of it"
        onTakeDown={take}
        onClose={vi.fn()}
        onDone={done}
      />
    );
    const { user } = screenAt("/desk/b/posts/1", "/desk/:blog/posts/:id", dialog);
    const button = await screen.findByRole("button", { name: "Withdraw and block" });
    expect(button.hasAttribute("disabled")).toBe(true);
    await user.type(screen.getByLabelText("Who asks for it"), " The club ");
    await user.click(button);
    expect(take).toHaveBeenCalledWith({ asked_by: "The club", reason: "" });
    await vi.waitFor(() => expect(done).toHaveBeenCalled());
  });

  it("say why they cannot be", async () => {
    answering({});
    const take = vi.fn().mockRejectedValue(new ProblemError(409, "No", "It is withdrawn already."));
    const { user } = screenAt(
      "/desk/b/posts/1",
      "/desk/:blog/posts/:id",
      <TakedownDialog
        blog="b"
        title="Withdraw?"
        text=""
        onTakeDown={take}
        onClose={vi.fn()}
        onDone={vi.fn()}
      />,
    );
    await user.type(await screen.findByLabelText("Who asks for it"), "The club");
    await user.click(screen.getByRole("button", { name: "Withdraw and block" }));
    expect(await screen.findByText("It is withdrawn already.")).toBeTruthy();
  });
});
