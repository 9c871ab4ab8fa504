import { screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import type { OpenedPage } from "@/api/pages";
import { answering, type Call, screenAt } from "@/testing/server";
import { newDocument } from "./document";
import { useReader } from "./useReader";

const POINT = "POST /api/blogs/{blog}/pages/{number}/point";
const PAGE = { id: 7, url: "https://ridge.example/", kind: "article", lists: [] } as unknown as OpenedPage;

function Pointing() {
  const [document, setDocument] = useState(newDocument(PAGE.url));
  const state = useReader("b", document, setDocument, PAGE, false);
  return (
    <>
      <button type="button" onClick={() => state.aim({ page: "list", name: "link" })}>
        aim
      </button>
      {[4, 9].map((place) => (
        <button key={place} type="button" onClick={() => state.point(place)}>
          click {place}
        </button>
      ))}
      <button type="button" onClick={() => state.point(4, true)}>
        leave out 4
      </button>
      <button type="button" onClick={() => state.setLeavesOut(true)}>
        leave out from now on
      </button>
    </>
  );
}

function show() {
  const calls = answering({
    [POINT]: [{ selector: "h2 > a", places: [4, 9], samples: [] }],
    "POST /api/blogs/{blog}/pages/{number}/list": { entries: [], next_url: "", counts: {} },
    "POST /api/blogs/{blog}/pages/{number}/marks": { places: [4, 9], samples: [], error: "", at: 0 },
  });
  const pointed = () =>
    calls
      .filter(({ what }: Call) => what === POINT)
      .map(({ body }) => body as { examples: number[]; without: number[] })
      .map(({ examples, without }) => [examples, without]);
  return { pointed, ...screenAt("/desk/b", "/desk/:blog", <Pointing />) };
}

describe("a click in a page", () => {
  it("adds an example, also where its element is marked already", async () => {
    const { user, pointed } = show();
    await user.click(screen.getByText("aim"));
    for (const place of [4, 9, 4]) await user.click(screen.getByText(`click ${place}`));
    await waitFor(() => expect(pointed().length).toBe(3));
    expect(pointed()).toEqual([
      [[4], []],
      [[4, 9], []],
      [[9, 4], []],
    ]);
  });

  it("leaves out only where that was asked for", async () => {
    const { user, pointed } = show();
    await user.click(screen.getByText("aim"));
    await user.click(screen.getByText("click 4"));
    await user.click(screen.getByText("click 9"));
    await user.click(screen.getByText("leave out 4"));
    await waitFor(() => expect(pointed().at(-1)).toEqual([[9], [4]]));
    await user.click(screen.getByText("click 4"));
    await waitFor(() => expect(pointed().at(-1)).toEqual([[9, 4], []]));
    await user.click(screen.getByText("leave out from now on"));
    await user.click(screen.getByText("click 4"));
    await waitFor(() => expect(pointed().at(-1)).toEqual([[9], [4]]));
  });
});
