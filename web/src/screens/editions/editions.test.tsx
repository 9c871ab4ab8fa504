import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Edition, EditionTexts } from "@/api/editions";
import type { Post } from "@/api/posts";
import { answering, last, screenAt } from "@/testing/server";
import Beside from "./Beside";
import { EditionOf } from "./EditionOf";
import { pieces } from "./Kept";
import { MakeEditions } from "./MakeEditions";
import { PostEditions } from "./PostEditions";

const COST = {
  service: "machine",
  name: "Machine",
  texts: 2,
  characters: 420,
  price: "0.0084",
  currency: "EUR",
};
const MADE: Edition = {
  language: "de",
  name: "German",
  may: true,
  state: "made",
  mode: "publish",
  post: 8,
  title: "Die Kuppel",
  post_state: "published",
  edited: true,
  made_at: "2026-11-24T12:00:00Z",
  blocks: 5,
  behind: 2,
  faults: [{ fault: "numbers", text: "At 20:00." }],
  costs: [COST],
};
const MISSING: Edition = {
  ...MADE,
  language: "ja",
  name: "Japanese",
  state: null,
  mode: null,
  post: null,
  title: "",
  post_state: null,
  edited: false,
  made_at: null,
  behind: 0,
  faults: [],
  costs: [],
};
const POST = { id: 3, title: "The dome", state: "published", edition_of: null, language: "en" } as Post;
const LIST = "GET /api/blogs/{blog}/posts/{post_id}/editions";
const WANT = "POST /api/blogs/{blog}/posts/{post_id}/editions";
const ANEW = "POST /api/blogs/{blog}/posts/{post_id}/editions/{language}/anew";
const TEXTS = "GET /api/blogs/{blog}/posts/{post_id}/editions/{language}";
const MANY = "POST /api/blogs/{blog}/editions";

function list(editions: Edition[], answers: Record<string, unknown> = {}) {
  const calls = answering({ [LIST]: editions, ...answers });
  return {
    calls,
    ...screenAt("/desk/b/posts/3", "/desk/:blog/posts/:id", <PostEditions blog="b" post={POST} />),
  };
}

describe("the editions of a post", () => {
  it("say how far they are behind, and what was not translated", async () => {
    list([MADE, MISSING]);
    const [german] = await screen.findAllByRole("listitem");
    expect(german?.textContent).toContain("2 of 5 blocks behind the original · edited by hand");
    expect(german?.textContent).toContain("a number is missing or another one: “At 20:00.”");
    expect(screen.getByText("Japanese").closest("li")?.textContent).toContain("not made");
  });

  it("are brought up to date after a question that names cost and loss", async () => {
    const { user, calls } = list([MADE], { [ANEW]: [MADE] });
    await user.click(await screen.findByRole("button", { name: "Bring up to date" }));
    const question = await screen.findByRole("alertdialog");
    expect(question.textContent).toContain("2 texts with 420 characters to “Machine”");
    expect(question.textContent).toContain("What people have changed in it is replaced");
    await user.click(within(question).getByRole("button", { name: "Make it again" }));
    expect(last(calls, ANEW).path).toEqual({ blog: "b", post_id: 3, language: "de" });
  });

  it("are made held, and cost nothing where all is kept", async () => {
    const { user, calls } = list([MISSING], { [WANT]: [MISSING] });
    await user.click(await screen.findByRole("button", { name: "Make" }));
    const question = await screen.findByRole("alertdialog");
    expect(question.textContent).toContain("It costs nothing");
    await user.click(within(question).getByRole("button", { name: "Make" }));
    expect(last(calls, WANT).body).toEqual({ language: "ja", mode: "hold" });
  });

  it("offer nothing where there may be none", async () => {
    list([{ ...MISSING, may: false }]);
    expect(await screen.findByText(/the source allows a link only/)).toBeTruthy();
    expect(screen.queryByRole("button")).toBeNull();
  });

  it("lead from an edition to its original", async () => {
    answering({
      [LIST]: [{ ...MADE, post: 8 }],
      "GET /api/blogs/{blog}/posts/{post_id}": { ...POST, title: "The dome" },
    });
    const edition = { ...POST, id: 8, language: "de", edition_of: 3 };
    screenAt("/desk/b/review", "/desk/:blog/review", <EditionOf blog="b" post={edition} original={3} />);
    expect((await screen.findByRole("link", { name: "The dome" })).getAttribute("href")).toBe(
      "/desk/b/posts/3",
    );
    expect(screen.getByRole("link", { name: "Beside the original" }).getAttribute("href")).toBe(
      "/desk/b/posts/3/editions/de",
    );
    expect(await screen.findByText(/1 block stays in the first language/)).toBeTruthy();
  });
});

describe("both texts", () => {
  const TWO: EditionTexts = {
    original: 3,
    post: 8,
    language: "ar",
    direction: "rtl",
    side_by_side: true,
    behind: 1,
    costs: [],
    blocks: [
      {
        part: "title",
        before: "Ada at 20:00",
        after: "20:00 Ada",
        changed: true,
        fault: "",
        kept: ["Ada", "20:00"],
      },
      { part: "body", before: "Rain.", after: "Rain.", changed: false, fault: "untranslated", kept: [] },
    ],
  };

  it("stand beside each other, with what is kept marked", async () => {
    answering({ [TEXTS]: TWO, "GET /api/blogs/{blog}/posts/{post_id}": { ...POST, id: 8, moves: [] } });
    screenAt("/desk/b/posts/3/editions/ar", "/desk/:blog/posts/:id/editions/:language", <Beside />);
    const [, title, body] = await screen.findAllByRole("row");
    expect(title?.textContent).toContain("changed since");
    expect([...(title?.querySelectorAll("mark") ?? [])].map((mark) => mark.textContent)).toEqual([
      "Ada",
      "20:00",
      "20:00",
      "Ada",
    ]);
    expect(title?.querySelector("td[lang=ar]")?.getAttribute("dir")).toBe("rtl");
    expect(body?.textContent).toContain("it is not translated");
    expect(screen.getByText(/1 block of the original changed/)).toBeTruthy();
  });

  it("mark the longest word, and signs as they are", () => {
    expect(pieces("C++ and C", ["C", "C++"])).toEqual([
      ["C++", true],
      [" and ", false],
      ["C", true],
    ]);
    expect(pieces("none", [])).toEqual([["none", false]]);
  });
});

describe("editions of many posts", () => {
  const LANGUAGE = {
    tag: "de",
    title: "",
    tagline: "",
    services: ["machine"],
    glossary: [],
    names: null,
    follows: true,
  };
  const dialog = (languages: unknown[], answers: Record<string, unknown> = {}) => {
    const calls = answering({
      "GET /api/blogs/{blog}/languages": { version: 1, usual: "en", counts: [], document: { languages } },
      ...answers,
    });
    const shown = <MakeEditions blog="b" selection={{ ids: [3, 4] }} number={2} onClose={() => {}} />;
    return { calls, ...screenAt("/desk/b/posts", "/desk/:blog/posts", shown) };
  };

  it("say number and cost before they are made", async () => {
    const { user, calls } = dialog([LANGUAGE], { [MANY]: { posts: 2, characters: 420, costs: [COST] } });
    await user.click(await screen.findByRole("button", { name: "What would it cost?" }));
    expect(await screen.findByText(/2 posts would get one/)).toBeTruthy();
    expect(last(calls, MANY).body).toMatchObject({ ids: [3, 4], language: "de", mode: "hold", go: false });
    await user.click(screen.getByRole("button", { name: "Make 2 editions" }));
    expect(last(calls, MANY).body).toMatchObject({ go: true });
  });

  it("need a language with a service", async () => {
    dialog([{ ...LANGUAGE, services: [] }]);
    expect(await screen.findByRole("link", { name: "Settings, Languages" })).toBeTruthy();
  });
});
