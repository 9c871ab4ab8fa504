import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { answering, last, screenAt } from "@/testing/server";
import Languages from "./Languages";

const GERMAN = {
  tag: "de",
  title: "Wiese",
  tagline: "",
  services: [],
  glossary: [],
  names: null,
  follows: true,
};
const SAVE = "PUT /api/blogs/{blog}/languages";

function show(answers: Record<string, unknown> = {}) {
  const kept = {
    version: 4,
    usual: "en",
    document: { languages: [GERMAN], words: {} },
    counts: [{ language: "de", name: "German", editions: { made: 12, waits: 2 } }],
  };
  const calls = answering({
    "GET /api/blogs/{blog}/languages": kept,
    "GET /api/blogs/{blog}/services": {
      services: [{ key: "machine", name: "Machine", tasks: ["translate"] }],
    },
    "GET /api/blogs/{blog}": { term_tables: [{ key: "names", name: "Names", lines: 2, text: "" }] },
    [SAVE]: kept,
    ...answers,
  });
  return { calls, ...screenAt("/desk/b/languages", "/desk/:blog/languages", <Languages />) };
}

describe("the languages of a blog", () => {
  it("say their pages and how many editions they have", async () => {
    show();
    const german = await screen.findByRole("region", { name: "German (de)" });
    expect(german.textContent).toContain("12 editions made, 2 waiting for texts");
    expect(within(german).getByRole("link").getAttribute("href")).toBe("/blog/b/de/");
  });

  it("are changed together and saved with their version", async () => {
    const { user, calls } = show();
    const german = await screen.findByRole("region", { name: "German (de)" });
    await user.click(await within(german).findByRole("button", { name: "Machine" }));
    await user.click(within(german).getByRole("button", { name: "Names" }));
    await user.type(within(german).getByLabelText("Tagline"), "Sterne");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, SAVE).body).toEqual({
      begun: 4,
      document: {
        words: {},
        languages: [{ ...GERMAN, services: ["machine"], glossary: ["names"], tagline: "Sterne" }],
      },
    });
  });

  it("are added by their tag, once, and not the usual one", async () => {
    const { user, calls } = show();
    const field = await screen.findByLabelText(/Another language/);
    await user.type(field, "en-GB");
    expect(screen.getByRole("alert").textContent).toContain("already");
    await user.clear(field);
    await user.type(field, "pt-BR{Enter}");
    expect(await screen.findByRole("region", { name: /pt-BR/ })).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Save" }));
    const { document } = last(calls, SAVE).body as { document: { languages: { tag: string }[] } };
    expect(document.languages.map(({ tag }) => tag)).toEqual(["de", "pt-BR"]);
  });

  it("have words of their own in place of the usual ones", async () => {
    const { user, calls } = show({
      "GET /api/wordings/{language}": [
        { english: "Search", usual: "Suche" },
        { english: "Newest", usual: "Neu" },
      ],
    });
    const german = await screen.findByRole("region", { name: "German (de)" });
    await user.click(within(german).getByText("Words of the pages"));
    await user.type(await within(german).findByLabelText("Find a word"), "suc");
    expect(within(german).queryByLabelText("In place of “Neu”")).toBeNull();
    await user.type(within(german).getByLabelText("In place of “Suche”"), "Stöbern");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, SAVE).body).toMatchObject({
      document: { languages: [{ words: { Search: "Stöbern" } }] },
    });
  });

  it("are removed after a question", async () => {
    const { user } = show();
    await user.click(await screen.findByRole("button", { name: "Remove" }));
    await user.click(within(await screen.findByRole("alertdialog")).getByRole("button", { name: "Remove" }));
    expect(screen.queryByRole("region", { name: "German (de)" })).toBeNull();
  });

  it("are for owners", async () => {
    show({ "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "editor" }] });
    expect(await screen.findByText("For owners")).toBeTruthy();
  });
});
