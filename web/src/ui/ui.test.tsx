import { render, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { shown } from "@/testing/render";
import { Button } from "./Button";
import { Confirm } from "./Confirm";
import { Dialog } from "./Dialog";
import { Field } from "./Field";
import { Lozenge, type LozengeKind } from "./Lozenge";
import { Menu } from "./Menu";
import { Segmented } from "./Segmented";
import { Spark } from "./Spark";
import { Toasts, useTell } from "./Toasts";

describe("marks", () => {
  it("differ in shape, so that colour never speaks alone", () => {
    const kinds: LozengeKind[] = [
      "publish",
      "hold",
      "draft",
      "private",
      "scheduled",
      "waiting",
      "refused",
      "duplicate",
    ];
    const { container } = shown(kinds.map((kind) => <Lozenge key={kind} kind={kind} />));
    const shapes = [...container.querySelectorAll("svg")].map((mark) => mark.innerHTML);
    expect(new Set(shapes).size).toBe(kinds.length);
  });

  it("are pictures only where they have a name", () => {
    const { container } = shown(
      <>
        <Lozenge kind="hold" />
        <Lozenge kind="hold" label="held" />
      </>,
    );
    expect(screen.getByRole("img", { name: "held" })).toBeTruthy();
    expect(container.querySelector("svg")?.getAttribute("aria-hidden")).toBe("true");
  });
});

describe("small bars", () => {
  it("are as high as their share of the most, and a day without anything is a line", () => {
    const { container } = shown(<Spark days={[0, 5, 10]} label="Posts a day" />);
    const heights = [...container.querySelectorAll("rect")].map((bar) => Number(bar.getAttribute("height")));
    expect(heights).toEqual([1, 9.5, 19]);
  });

  it("stay in their frame where nothing has happened", () => {
    const { container } = shown(<Spark days={[0, 0]} label="Posts a day" />);
    expect([...container.querySelectorAll("rect")].every((bar) => bar.getAttribute("height") === "1")).toBe(
      true,
    );
  });
});

describe("a button", () => {
  it("cannot be pressed twice while it is busy", async () => {
    const press = vi.fn();
    const { user } = shown(
      <Button busy onClick={press}>
        Save
      </Button>,
    );
    await user.click(screen.getByRole("button"));
    expect(press).not.toHaveBeenCalled();
  });

  it("keeps the focus while it is busy, and sends no form", async () => {
    const send = vi.fn((event: { preventDefault: () => void }) => event.preventDefault());
    const { user } = shown(
      <form onSubmit={send}>
        <input aria-label="Name" />
        <Button type="submit" busy>
          Send
        </Button>
      </form>,
    );
    await user.click(screen.getByRole("button"));
    expect(document.activeElement).toBe(screen.getByRole("button"));
    await user.type(screen.getByLabelText("Name"), "Moon{Enter}");
    expect(send).not.toHaveBeenCalled();
  });

  it("sends no form unless it is said to", async () => {
    const send = vi.fn((event: { preventDefault: () => void }) => event.preventDefault());
    const { user } = shown(
      <form onSubmit={send}>
        <Button>Look</Button>
        <Button type="submit">Send</Button>
      </form>,
    );
    await user.click(screen.getByRole("button", { name: "Look" }));
    expect(send).not.toHaveBeenCalled();
    await user.click(screen.getByRole("button", { name: "Send" }));
    expect(send).toHaveBeenCalledOnce();
  });
});

describe("a choice of one", () => {
  it("cannot be taken back by choosing the same again", async () => {
    const change = vi.fn();
    const options = [
      { value: "all", label: "All" },
      { value: "kept", label: "Kept" },
    ] as const;
    const { user } = shown(<Segmented label="Which" value="all" options={options} onChange={change} />);
    await user.click(screen.getByRole("radio", { name: "All" }));
    expect(change).not.toHaveBeenCalled();
    await user.click(screen.getByRole("radio", { name: "Kept" }));
    expect(change).toHaveBeenCalledWith("kept");
  });
});

describe("a menu", () => {
  it("is gone through by the keyboard", async () => {
    const first = vi.fn();
    const second = vi.fn();
    const { user } = shown(
      <Menu
        trigger={<button type="button">More</button>}
        entries={[
          { label: "Rename", onSelect: first },
          { label: "Remove", hint: "for good", onSelect: second, danger: true },
        ]}
      />,
    );
    screen.getByRole("button").focus();
    await user.keyboard("{Enter}");
    await screen.findByRole("menu");
    await user.keyboard("{ArrowDown}{Enter}");
    expect([first.mock.calls.length, second.mock.calls.length]).toEqual([0, 1]);
  });
});

describe("a question before something is lost", () => {
  it("does nothing on Escape, and does it on its button", async () => {
    const lose = vi.fn();
    const { user } = shown(
      <Confirm
        trigger={<button type="button">Remove</button>}
        title="Remove it?"
        text="It is gone then."
        action="Remove it"
        onConfirm={lose}
      />,
    );
    await user.click(screen.getByRole("button", { name: "Remove" }));
    expect(
      within(screen.getByRole("alertdialog", { name: "Remove it?" })).getByText("It is gone then."),
    ).toBeTruthy();
    await user.keyboard("{Escape}");
    expect(screen.queryByRole("alertdialog")).toBeNull();
    await user.click(screen.getByRole("button", { name: "Remove" }));
    await user.click(screen.getByRole("button", { name: "Remove it" }));
    expect(lose).toHaveBeenCalledOnce();
  });
});

describe("a dialog", () => {
  it("is named, described and closed by Escape", async () => {
    const close = vi.fn();
    const { user } = shown(
      <Dialog open onOpenChange={close} title="Revisions" description="Every saved state.">
        <p>Content</p>
      </Dialog>,
    );
    const dialog = screen.getByRole("dialog", { name: "Revisions" });
    expect(dialog.getAttribute("aria-describedby")).toBe(screen.getByText("Every saved state.").id);
    await user.keyboard("{Escape}");
    expect(close).toHaveBeenCalledExactlyOnceWith(false);
  });

  it("is closed by Escape while a message is shown as well", async () => {
    const close = vi.fn();
    const { user } = shown(
      <Toasts>
        <Dialog open onOpenChange={close} title="Last changes">
          <Teller />
        </Dialog>
      </Toasts>,
    );
    await user.click(screen.getByRole("button", { name: "tell" }));
    await user.keyboard("{Escape}");
    expect(close).toHaveBeenCalledExactlyOnceWith(false);
  });
});

describe("a field", () => {
  it("shows its hint until something is wrong", () => {
    const { rerender } = shown(
      <Field label="Name" hint="As you like">
        <input />
      </Field>,
    );
    expect(screen.getByText("As you like")).toBeTruthy();
    rerender(
      <Field label="Name" hint="As you like" error="Give a name.">
        <input />
      </Field>,
    );
    expect(screen.queryByText("As you like")).toBeNull();
    expect(screen.getByRole("alert").textContent).toBe("Give a name.");
  });
});

function Teller({ undo }: { undo?: () => void }) {
  const tell = useTell();
  return (
    <button type="button" onClick={() => tell("Removed.", undo ? { undo } : {})}>
      tell
    </button>
  );
}

describe("messages", () => {
  it("offer to take back what can be taken back", async () => {
    const undo = vi.fn();
    const { user } = shown(
      <Toasts>
        <Teller undo={undo} />
      </Toasts>,
    );
    await user.click(screen.getByRole("button", { name: "tell" }));
    const undoing = await screen.findByRole("button", { name: "Undo" });
    // The message can be pressed one frame after it has come.
    await waitFor(() => user.click(undoing));
    expect(undo).toHaveBeenCalledOnce();
  });

  it("are three at most", async () => {
    const { user } = shown(
      <Toasts>
        <Teller />
      </Toasts>,
    );
    for (let times = 0; times < 5; times += 1) await user.click(screen.getByRole("button", { name: "tell" }));
    expect(screen.getAllByText("Removed.")).toHaveLength(3);
  });

  it("are nowhere without their place", () => {
    const silent = vi.spyOn(console, "error").mockImplementation(() => {});
    expect(() => render(<Teller />)).toThrow(/outside of Toasts/);
    silent.mockRestore();
  });
});
