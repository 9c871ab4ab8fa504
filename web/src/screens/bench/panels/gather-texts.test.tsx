import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Source } from "@/api/sources";
import { answering, last, screenAt } from "@/testing/server";
import { MissingConnections } from "../MissingConnections";
import type { BenchState } from "../useBench";
import { GatherTexts } from "./GatherTexts";

const CLUB = { key: "club", title: "Club", right: "full", right_words: 100, full_text_words: 0 };
const CHOSEN = "POST /api/blogs/{blog}/chosen-sources";
const CHANGE = "PATCH /api/blogs/{blog}/sources/{key}";

function show(source: Partial<typeof CLUB>) {
  const calls = answering({
    [CHANGE]: null,
    "GET /api/blogs/{blog}/sources/{key}/texts": { outcomes: {}, waiting: 3, titles: [], under_way: false },
  });
  const sources = [{ ...CLUB, ...source }] as unknown as Source[];
  return { calls, ...screenAt("/desk/b", "/desk/:blog", <GatherTexts blog="b" sources={sources} />) };
}

describe("a source whose connection is refused", () => {
  it("is told on the bench with the way to put it right", async () => {
    const rows = [
      { key: "films", title: "Films", connection_trouble: "The key has expired." },
      { key: "wire", title: "Wire", connection_trouble: "" },
    ];
    const calls = answering({ [CHOSEN]: { rows, total: 2, lost: [] } });
    const gather = { sources: ["films"], labels: ["Sky"] };
    const bench = { document: { gather } } as unknown as BenchState;
    screenAt("/desk/b", "/desk/:blog", <MissingConnections blog="b" bench={bench} />);
    expect((await screen.findByRole("status")).textContent).toContain(
      "“Films” cannot be read. The key has expired.",
    );
    expect(screen.getByRole("link").getAttribute("href")).toBe("/desk/b/connections");
    expect(screen.queryByText(/Wire/)).toBeNull();
    expect(last(calls, CHOSEN).body).toEqual({ keys: ["films"], labels: ["Sky"] });
  });
});

describe("the full text on the bench", () => {
  it("is chosen at the source, with all else of it as it was", async () => {
    const { user, calls } = show({});
    await user.click(await screen.findByLabelText("Text of Club"));
    await user.click(await screen.findByRole("option", { name: "completed from its page" }));
    expect(last(calls, CHANGE).body).toMatchObject({ title: "Club", right: "full", full_text_words: 50 });
    expect(screen.queryByText(/not asked yet/)).toBeNull();
  });

  it("says which pages would have to be fetched", async () => {
    show({ full_text_words: 50 });
    expect(await screen.findByText(/pages of 3 items were not asked yet/)).toBeTruthy();
  });
});
