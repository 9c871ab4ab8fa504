import { screen } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import { answering, last, screenAt } from "@/testing/server";
import { type Chosen, SourceChoice } from "./SourceChoice";

const LISTED = "GET /api/blogs/{blog}/sources";
const CHOSEN = "POST /api/blogs/{blog}/chosen-sources";
const FOUND = "POST /api/blogs/{blog}/found-sources";
const CLUB = { key: "club", title: "Club", items: 3 };
const WIRE = { key: "wire", title: "Wire", items: 1 };

function Choosing({ begun }: { begun: Chosen }) {
  const [chosen, setChosen] = useState(begun);
  return (
    <>
      <SourceChoice blog="b" chosen={chosen} onChange={(next) => setChosen({ ...chosen, ...next })} />
      <output>{JSON.stringify(chosen)}</output>
    </>
  );
}

function show(answers: Record<string, unknown>, begun: Partial<Chosen> = {}) {
  const calls = answering({ [LISTED]: { rows: [CLUB, WIRE], total: 2, labels: [] }, ...answers });
  const element = <Choosing begun={{ sources: [], labels: [], ...begun }} />;
  return { calls, ...screenAt("/desk/b", "/desk/:blog", element) };
}

function chosen(): Chosen {
  return JSON.parse(document.querySelector("output")?.textContent ?? "");
}

describe("a choice of sources", () => {
  it("shows all of a small blog, and those that were removed", async () => {
    const { user } = show(
      { [CHOSEN]: { rows: [], total: 0, lost: ["gone"] } },
      { sources: ["club", "gone"] },
    );
    await user.click(await screen.findByRole("checkbox", { name: /Wire/ }));
    expect(chosen().sources).toEqual(["club", "gone", "wire"]);
    expect(screen.queryByLabelText("Find a source")).toBeNull();
    await user.click(await screen.findByRole("checkbox", { name: /removed: untick it/ }));
    expect(chosen().sources).toEqual(["club", "wire"]);
  });

  it("searches a large blog, and takes all that a search finds", async () => {
    const many = { rows: [WIRE], total: 300, labels: [] };
    const { user, calls } = show(
      {
        [LISTED]: many,
        [CHOSEN]: { rows: [CLUB], total: 1, lost: [] },
        [FOUND]: ["club", "wire", "far"],
      },
      { sources: ["club"] },
    );
    expect(await screen.findByText("280 more: search for their names or addresses.")).toBeTruthy();
    expect((screen.getByRole("checkbox", { name: /Club/ }) as HTMLInputElement).checked).toBe(true);
    await user.type(screen.getByLabelText("Find a source"), "sky");
    await user.click(await screen.findByRole("button", { name: "Take all 300 found" }));
    expect(last(calls, FOUND).body).toEqual({ search: "sky", label: "" });
    expect(chosen().sources).toEqual(["club", "wire", "far"]);
  });

  it("takes all sources of a label, and says how many that are now", async () => {
    const { user, calls } = show({
      [LISTED]: { rows: [CLUB], total: 1, labels: ["Clubs", "Sky"] },
      [CHOSEN]: { rows: [CLUB], total: 124, lost: [] },
    });
    await user.click(await screen.findByRole("button", { name: "All of a label" }));
    await user.click(screen.getByRole("menuitem", { name: "Sky" }));
    expect(chosen().labels).toEqual(["Sky"]);
    expect(await screen.findByText(/124 sources now/)).toBeTruthy();
    expect(last(calls, CHOSEN).body).toEqual({ keys: [], labels: ["Sky"] });
    await user.click(screen.getByRole("button", { name: "Take off the label Sky" }));
    expect(chosen().labels).toEqual([]);
  });
});
