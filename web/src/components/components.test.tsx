import { fireEvent, screen } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it, vi } from "vitest";
import { ProblemError } from "@/api/client";
import type { Decision, Item, Note } from "@/api/proofs";
import { shown } from "@/testing/render";
import { ErrorNote } from "./ErrorNote";
import { Fields } from "./Fields";
import { Paging } from "./Paging";
import { Preview } from "./Preview";
import { Reason } from "./Reason";
import { SearchBox } from "./SearchBox";
import { SourceText } from "./SourceText";

const ITEM: Item = {
  title: "Comets over the mill",
  link: "https://club.example/3",
  identity: "n3",
  authors: ["Ida Farrow", "Tobin Quill"],
  categories: [],
  published: null,
  updated: null,
  captured_at: "2026-11-24T12:00:00Z",
  language: "en",
  words: 4,
  credit: "",
  media: [{ kind: "picture", origin: "page", url: "https://club.example/p.png" }],
  summary: "",
  text: "A comet was seen. Another comet came.",
  facts: { price: "29.5" },
  source: "Club",
} as unknown as Item;

function decision(hits: object[], item: Partial<Item> = {}): Decision {
  return { item: { ...ITEM, ...item }, trace: [{ data: { hits } }] } as unknown as Decision;
}

describe("paging", () => {
  it("is not there where one page holds all", () => {
    const { container } = shown(<Paging offset={0} size={50} total={50} onChange={() => {}} />);
    expect(container.textContent).toBe("");
  });

  it("goes on and back, no further than there is something", async () => {
    const go = vi.fn();
    const { user, rerender } = shown(<Paging offset={0} size={50} total={120} onChange={go} />);
    expect(screen.getByText("1 to 50 of 120")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Before" }).hasAttribute("disabled")).toBe(true);
    await user.click(screen.getByRole("button", { name: "Next" }));
    expect(go).toHaveBeenLastCalledWith(50);
    rerender(<Paging offset={100} size={50} total={120} onChange={go} />);
    expect(screen.getByText("101 to 120 of 120")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Next" }).hasAttribute("disabled")).toBe(true);
    await user.click(screen.getByRole("button", { name: "Before" }));
    expect(go).toHaveBeenLastCalledWith(50);
  });

  it("says the order of a list, on one page too", () => {
    const { container } = shown(
      <Paging offset={0} size={50} total={12} order="newest first" onChange={() => {}} />,
    );
    expect(container.textContent).toBe("12, newest first");
  });

  it("says where a search is listed no further", () => {
    shown(<Paging offset={950} size={50} total={1000} endsAt={1000} onChange={() => {}} />);
    expect(screen.getByText(/more was found than is listed/)).toBeTruthy();
  });

  it("leads back from beyond the end", () => {
    shown(<Paging offset={100} size={50} total={20} onChange={() => {}} />);
    expect(screen.getByRole("button", { name: "Before" }).hasAttribute("disabled")).toBe(false);
  });
});

function Held({ said }: { said: (text: string) => void }) {
  const [value, setValue] = useState("");
  return (
    <SearchBox
      label="Find"
      value={value}
      onChange={(text) => {
        said(text);
        setValue(text);
      }}
    />
  );
}

describe("a search field", () => {
  it("reports once when the typing pauses", () => {
    vi.useFakeTimers();
    try {
      const said = vi.fn();
      shown(<Held said={said} />);
      for (const value of ["c", "co", "com"])
        fireEvent.change(screen.getByLabelText("Find"), { target: { value } });
      vi.advanceTimersByTime(150);
      expect(said).not.toHaveBeenCalled();
      vi.advanceTimersByTime(100);
      expect(said.mock.calls).toEqual([["com"]]);
    } finally {
      vi.useRealTimers();
    }
  });

  it("follows what is set from outside", () => {
    const { rerender } = shown(<SearchBox label="Find" value="comet" onChange={() => {}} />);
    rerender(<SearchBox label="Find" value="" onChange={() => {}} />);
    expect((screen.getByLabelText("Find") as HTMLInputElement).value).toBe("");
  });
});

describe("an error", () => {
  it("says what happened and what to do, and can be tried again", async () => {
    const again = vi.fn();
    const { user } = shown(
      <ErrorNote error={new ProblemError(404, "Not found", "Look in the list.")} onRetry={again} />,
    );
    expect(screen.getByRole("alert").textContent).toContain("Not foundLook in the list.");
    await user.click(screen.getByRole("button", { name: "Try again" }));
    expect(again).toHaveBeenCalledOnce();
  });

  it("of our own says no more than that", () => {
    shown(<ErrorNote error={new TypeError("x is undefined")} />);
    expect(screen.getByRole("alert").textContent).not.toContain("undefined");
    expect(screen.queryByRole("button")).toBeNull();
  });
});

describe("the text of an item", () => {
  const hit = (start: number, end: number, where = "text") => ({ term: "comet", in: where, start, end });

  it("has the words marked that rules found, each once", () => {
    const { container } = shown(
      <SourceText decision={decision([hit(26, 31), hit(2, 7), hit(2, 7), hit(0, 6, "title")])} />,
    );
    expect([...container.querySelectorAll("mark")].map((mark) => mark.textContent)).toEqual([
      "Comets",
      "comet",
      "comet",
    ]);
    expect(container.querySelector("p")?.textContent).toBe(ITEM.text);
  });

  it("is the summary where there is no text", () => {
    const { container } = shown(
      <SourceText decision={decision([hit(0, 5, "summary")], { text: "", summary: "Comet seen." })} />,
    );
    expect(container.querySelector("p mark")?.textContent).toBe("Comet");
  });
});

describe("the fields of an item", () => {
  it("say what the source does not give", () => {
    const found = shown(<Fields item={{ ...ITEM, language: "de", language_found: true }} />);
    expect(found.container.textContent).toContain("de (found by its text)");
    found.unmount();
    const { container } = shown(<Fields item={ITEM} />);
    const said = Object.fromEntries(
      [...container.querySelectorAll("dl > div")].map((row) => [
        row.querySelector("dt")?.textContent,
        row.querySelector("dd")?.textContent,
      ]),
    );
    expect(said).toMatchObject({
      Authors: "Ida Farrow, Tobin Quill",
      Categories: "not given",
      Published: "not given",
      Media: "picture (page) https://club.example/p.png",
      price: "29.5",
    });
  });
});

describe("a reason", () => {
  const note = (stage: string, code: string, data: object) =>
    ({ stage, code, rule: "r", against: true, data }) as unknown as Note;

  it("is what spoke against the item", () => {
    const low = note("sift", "number.low", { field: "words", number: 20, at_least: 50 });
    const { container } = shown(<Reason verdict="refused" reason={low} />);
    expect(container.textContent).toBe("20 words, needs 50");
  });

  it("names what a duplicate repeats", () => {
    const same = note("match", "match.link", { title: "Old", within_pass: false });
    const { container } = shown(<Reason verdict="duplicate" reason={same} />);
    expect(container.textContent).toBe("same link as a post: “Old”");
  });

  it("names nothing of a post that the reader may not see", () => {
    const same = note("match", "match.link", { against: "everything", within_pass: false, hidden: true });
    const { container } = shown(<Reason verdict="duplicate" reason={same} />);
    expect(container.textContent).toBe("same link as a post of a blog that you do not work on");
  });

  it("is the verdict where no rule objects", () => {
    const { container } = shown(<Reason verdict="publish" reason={null} />);
    expect(container.textContent).toBe("published");
  });
});

describe("a preview", () => {
  it("may show, and not run anything", () => {
    shown(<Preview html="<p>x</p><script>bad()</script>" title="Sky" />);
    expect(screen.getByTitle("Preview: Sky").getAttribute("sandbox")).toBe("allow-same-origin");
  });
});
