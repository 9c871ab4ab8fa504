import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { Held, shown } from "@/testing/render";
import { OptionalNumber } from "./OptionalNumber";
import { PairRows } from "./PairRows";
import { WordList } from "./WordList";
import { WordNumber } from "./WordNumber";
import { WordOrder } from "./WordOrder";
import { WordSearch } from "./WordSearch";
import { WordTime } from "./WordTime";
import { WordToggle } from "./WordToggle";

describe("a number in a sentence", () => {
  it("counts at once when it is in range, and goes back when it is not", async () => {
    const seen: number[] = [];
    const { user } = shown(
      <Held begun={5} seen={seen}>
        {(value, set) => <WordNumber label="Words" value={value} max={100} onChange={set} />}
      </Held>,
    );
    const input = screen.getByLabelText("Words");
    await user.clear(input);
    await user.type(input, "42");
    expect(seen.at(-1)).toBe(42);
    await user.clear(input);
    await user.type(input, "4200");
    expect(input.getAttribute("aria-invalid")).toBe("true");
    expect(seen).not.toContain(4200);
    await user.tab();
    expect((input as HTMLInputElement).value).toBe(String(seen.at(-1)));
  });

  it("is turned up and down by the arrow keys, never out of range", async () => {
    const seen: number[] = [];
    const { user } = shown(
      <Held begun={2} seen={seen}>
        {(value, set) => <WordNumber label="Words" value={value} min={1} max={3} onChange={set} />}
      </Held>,
    );
    screen.getByLabelText("Words").focus();
    await user.keyboard("{ArrowUp}{ArrowUp}{ArrowDown}{ArrowDown}{ArrowDown}");
    expect(seen).toEqual([3, 3, 2, 1, 1]);
  });
});

describe("a limit that can be there or not", () => {
  it("begins with the usual number and can be taken off again", async () => {
    const seen: (number | null)[] = [];
    const { user } = shown(
      <Held<number | null> begun={null} seen={seen}>
        {(value, set) => (
          <OptionalNumber
            label="Days"
            value={value}
            none="all time"
            usual={60}
            max={99}
            unit="days"
            onChange={set}
          />
        )}
      </Held>,
    );
    await user.click(screen.getByRole("button", { name: "all time" }));
    await user.click(screen.getByRole("button", { name: "No limit: all time" }));
    expect(seen).toEqual([60, null]);
  });
});

describe("words in a sentence", () => {
  it("are added several at a time, without doubles", async () => {
    const seen: string[][] = [];
    const { user } = shown(
      <Held begun={["comet"]} seen={seen}>
        {(values, set) => <WordList label="Terms" values={values} added={new Set()} onChange={set} />}
      </Held>,
    );
    await user.click(screen.getByRole("button", { name: "add" }));
    await user.type(screen.getByLabelText("Terms: word"), "meteor, comet; fireball{Enter}");
    expect(seen.at(-1)).toEqual(["comet", "meteor", "fireball"]);
  });

  it("are changed where they stand, or left as they were with Escape", async () => {
    const seen: string[][] = [];
    const { user } = shown(
      <Held begun={["comet", "moon"]} seen={seen}>
        {(values, set) => <WordList label="Terms" values={values} added={new Set()} onChange={set} />}
      </Held>,
    );
    await user.click(screen.getByRole("button", { name: "moon" }));
    await user.keyboard("{Escape}");
    expect(seen).toEqual([]);
    await user.click(screen.getByRole("button", { name: "moon" }));
    await user.clear(screen.getByLabelText("Terms: word"));
    await user.type(screen.getByLabelText("Terms: word"), "planet{Enter}");
    expect(seen.at(-1)).toEqual(["comet", "planet"]);
  });

  it("cannot all be taken out where one is needed", () => {
    shown(<WordList label="Terms" atLeastOne values={["comet"]} added={new Set()} onChange={() => {}} />);
    expect(screen.queryByRole("button", { name: "Remove comet" })).toBeNull();
  });

  it("show which of them are new", () => {
    shown(
      <WordList label="Terms" values={["comet", "moon"]} added={new Set(["moon"])} onChange={() => {}} />,
    );
    expect(screen.getAllByText("+")).toHaveLength(1);
    expect(screen.getByText("+").parentElement?.textContent).toBe("+moon");
  });
});

describe("an order of preference", () => {
  const options = [
    { value: "feed", label: "feed" },
    { value: "text", label: "text" },
    { value: "blog", label: "pictures of the blog" },
  ] as const;

  it("is changed by the arrows, and its ends do not move on", async () => {
    const seen: ("feed" | "text" | "blog")[][] = [];
    const { user } = shown(
      <Held<("feed" | "text" | "blog")[]> begun={["feed", "text"]} seen={seen}>
        {(values, set) => (
          <WordOrder label="Order" values={values} options={options} none="nowhere" onChange={set} />
        )}
      </Held>,
    );
    await user.click(screen.getByRole("button", { name: "text: earlier" }));
    expect(seen.at(-1)).toEqual(["text", "feed"]);
    expect((screen.getByRole("button", { name: "text: earlier" }) as HTMLButtonElement).disabled).toBe(true);
    expect((screen.getByRole("button", { name: "feed: later" }) as HTMLButtonElement).disabled).toBe(true);
    await user.click(screen.getByRole("button", { name: "Remove text" }));
    await user.click(screen.getByRole("button", { name: "Remove feed" }));
    expect(screen.getByText("nowhere")).toBeTruthy();
  });
});

describe("a table in a rule", () => {
  it("counts a row only once both of its cells are filled", async () => {
    const seen: [string, string][][] = [];
    const { user } = shown(
      <Held<[string, string][]> begun={[["Gear", "Bench"]]} seen={seen}>
        {(rows, set) => <PairRows label="Table" rows={rows} heads={["theirs", "ours"]} onChange={set} />}
      </Held>,
    );
    await user.click(screen.getByRole("button", { name: "row" }));
    await user.type(screen.getByLabelText("theirs 2"), "Sky");
    expect(seen.at(-1)).toEqual([["Gear", "Bench"]]);
    await user.type(screen.getByLabelText("ours 2"), "Night");
    expect(seen.at(-1)).toEqual([
      ["Gear", "Bench"],
      ["Sky", "Night"],
    ]);
    await user.click(screen.getByRole("button", { name: "Remove row 1" }));
    expect(seen.at(-1)).toEqual([["Sky", "Night"]]);
  });
});

describe("a moment in a sentence", () => {
  it("is set, shown in local time, and taken off", async () => {
    const seen: (string | null)[] = [];
    const { user } = shown(
      <Held<string | null> begun={null} seen={seen}>
        {(value, set) => <WordTime label="First" value={value} none="now" onChange={set} />}
      </Held>,
    );
    await user.click(screen.getByRole("button", { name: "now" }));
    expect(new Date(seen[0] ?? "").getTime()).toBeGreaterThan(0);
    const input = screen.getByLabelText("First") as HTMLInputElement;
    expect(new Date(input.value).getTime()).toBe(Math.floor(Date.parse(seen[0] ?? "") / 60_000) * 60_000);
    await user.click(screen.getByRole("button", { name: "First: now" }));
    expect(seen.at(-1)).toBeNull();
  });
});

describe("a word that counts or not", () => {
  it("says whether it is on", async () => {
    const seen: boolean[] = [];
    const { user } = shown(
      <Held begun={false} seen={seen}>
        {(on, set) => <WordToggle label="pinned" on={on} onChange={set} />}
      </Held>,
    );
    const word = screen.getByRole("button", { name: "pinned" });
    expect(word.getAttribute("aria-pressed")).toBe("false");
    await user.click(word);
    expect(word.getAttribute("aria-pressed")).toBe("true");
  });
});

describe("a word that is searched", () => {
  const ROWS = [
    { value: "sky", label: "Sky notes" },
    { value: "moon", label: "Moon" },
  ];

  it("asks for what is typed while it is open, and gives the one that is chosen", async () => {
    const [asked, chosen] = [vi.fn(), vi.fn()];
    const { user } = shown(
      <WordSearch
        label="Campaign"
        value=""
        shown=""
        any="every campaign"
        found={{ rows: ROWS, total: 500 }}
        onSearch={asked}
        onChange={chosen}
      />,
    );
    expect(asked).not.toHaveBeenCalled();
    await user.click(screen.getByRole("button", { name: "Campaign: every campaign" }));
    expect(asked).toHaveBeenLastCalledWith("");
    expect(screen.getByText("498 more: type a name.")).toBeTruthy();
    await user.type(screen.getByPlaceholderText("Find a campaign"), "moo");
    await waitFor(() => expect(asked).toHaveBeenLastCalledWith("moo"));
    expect(screen.queryByRole("option", { name: "every campaign" })).toBeNull();
    await user.click(screen.getByRole("option", { name: "Moon" }));
    expect(chosen).toHaveBeenCalledExactlyOnceWith("moon");
    expect(asked).toHaveBeenLastCalledWith(null);
  });

  it("goes back to any, and says where nothing is found", async () => {
    const chosen = vi.fn();
    const of = { label: "Source", value: "sky", shown: "Sky notes", any: "every source", onSearch: vi.fn() };
    const { user, rerender } = shown(
      <WordSearch {...of} found={{ rows: ROWS, total: 2 }} onChange={chosen} />,
    );
    await user.click(screen.getByRole("button", { name: "Source: Sky notes" }));
    await user.click(screen.getByRole("option", { name: "every source" }));
    expect(chosen).toHaveBeenCalledExactlyOnceWith("");
    rerender(<WordSearch {...of} found={{ rows: [], total: 0 }} onChange={chosen} />);
    await user.click(screen.getByRole("button", { name: "Source: Sky notes" }));
    await user.type(screen.getByPlaceholderText("Find a source"), "zzz");
    expect(screen.getByText("Nothing is named so.")).toBeTruthy();
  });
});
