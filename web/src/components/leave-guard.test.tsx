import { act, screen } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import { screenAt } from "@/testing/server";
import { LeaveGuard } from "./LeaveGuard";

function Two() {
  const [first, setFirst] = useState(true);
  return (
    <>
      <LeaveGuard when={first} text="The first is lost." />
      <LeaveGuard when text="The second is lost." />
      <button type="button" onClick={() => setFirst(false)}>
        Save the first
      </button>
    </>
  );
}

describe("two guards on a screen", () => {
  it("ask once, and the second goes on asking when the first has nothing to lose", async () => {
    const { user, router, address } = screenAt("/desk/b/here", "/desk/b/here", <Two />);
    await act(() => router.navigate("/desk/b/there"));
    expect((await screen.findAllByRole("alertdialog")).length).toBe(1);
    expect(screen.getByText("The first is lost.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Stay" }));
    await user.click(screen.getByRole("button", { name: "Save the first" }));
    await act(() => router.navigate("/desk/b/there"));
    expect(await screen.findByText("The second is lost.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Leave" }));
    expect(address()).toBe("/desk/b/there");
  });
});
