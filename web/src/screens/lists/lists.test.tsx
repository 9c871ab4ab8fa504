import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { answering, last, screenAt } from "@/testing/server";
import WordLists from "./WordLists";

const BLOG = "GET /api/blogs/{blog}";
const USES = "GET /api/blogs/{blog}/library-uses";
const USED = { lists: { "not-for-us": [{ slug: "sky", name: "Sky" }] }, tables: {} };
const LISTS = [{ version: 3, key: "not-for-us", name: "Not for us", words: ["horoscope", "renewals"] }];
const TABLES = [
  { version: 2, key: "own", name: "Own words", lines: 6, text: "a,1\nb,2\nc,3\nd,4\ne,5\nf,6" },
];

function show(answers: Record<string, unknown> = {}, kept = { word_lists: LISTS, term_tables: TABLES }) {
  const calls = answering({ [BLOG]: kept, [USES]: USED, ...answers });
  return { calls, ...screenAt("/desk/b/word-lists", "/desk/:blog/word-lists", <WordLists />) };
}

describe("the word lists of a blog", () => {
  it("are shown with their terms, tables with their first lines", async () => {
    show();
    const list = await screen.findByRole("region", { name: "Not for us" });
    expect(list.textContent).toContain("2 terms");
    expect(list.textContent).toContain("horoscope · renewals");
    const table = screen.getByRole("region", { name: "Own words" });
    expect(table.textContent).toContain("d,4");
    expect(table.textContent).not.toContain("e,5");
    expect(table.textContent).toContain("…");
  });

  it("are made of lines, commas and semicolons, without empty terms", async () => {
    const add = "POST /api/blogs/{blog}/word-lists";
    const { user, calls } = show({ [add]: LISTS[0] });
    await user.click(await screen.findByRole("button", { name: "New list" }));
    await user.type(screen.getByLabelText("Name"), "Showers");
    await user.type(screen.getByLabelText(/^Terms/), "lyrids, leonids;\n geminids \n,,");
    await user.click(screen.getByRole("button", { name: "Keep the list" }));
    expect(last(calls, add).body).toEqual({ name: "Showers", words: ["lyrids", "leonids", "geminids"] });
    await waitFor(() => expect(screen.queryByLabelText("Name")).toBeNull());
  });

  it("need a name", async () => {
    const { user, calls } = show();
    await user.click(await screen.findByRole("button", { name: "New list" }));
    await user.type(screen.getByLabelText(/^Terms/), "lyrids");
    await user.click(screen.getByRole("button", { name: "Keep the list" }));
    expect(await screen.findByText("Give the list a name.")).toBeTruthy();
    expect(calls.every((call) => call.what.startsWith("GET "))).toBe(true);
  });

  it("keep what was typed when the server refuses it", async () => {
    const change = "PUT /api/blogs/{blog}/word-lists/{key}";
    const { user, calls } = show({ [change]: new ProblemError(422, "No", "“*” has no word in it") });
    const card = await screen.findByRole("region", { name: "Not for us" });
    await user.click(within(card).getByRole("button", { name: "Edit" }));
    await user.type(screen.getByLabelText(/^Terms/), "\n*");
    await user.click(screen.getByRole("button", { name: "Keep the list" }));
    expect((await screen.findByRole("alert")).textContent).toContain("has no word in it");
    expect(last(calls, change).body).toMatchObject({ version: 3 });
    expect((screen.getByLabelText(/^Terms/) as HTMLTextAreaElement).value).toContain("renewals\n*");
    await user.click(screen.getByRole("button", { name: "Close" }));
    await user.click(within(screen.getByRole("alertdialog")).getByRole("button", { name: "Close" }));
    await user.click(
      within(screen.getByRole("region", { name: "Not for us" })).getByRole("button", { name: "Edit" }),
    );
    expect(await screen.findByText(/They are back, from a draft/)).toBeTruthy();
    expect((screen.getByLabelText(/^Terms/) as HTMLTextAreaElement).value).toContain("renewals\n*");
  });

  it("are removed after a question, and say which rules hold them back", async () => {
    const remove = "DELETE /api/blogs/{blog}/unused-word-lists/{key}";
    const { user, calls } = show({ [remove]: new ProblemError(409, "No", "“Not for us” is used by Sky.") });
    const card = await screen.findByRole("region", { name: "Not for us" });
    await user.click(within(card).getByRole("button", { name: "Remove" }));
    await user.click(screen.getByRole("button", { name: "Cancel" }));
    expect(calls.some((call) => call.what === remove)).toBe(false);
    await user.click(within(card).getByRole("button", { name: "Remove" }));
    await user.click(screen.getByRole("button", { name: "Remove list" }));
    expect(last(calls, remove).path).toEqual({ blog: "b", key: "not-for-us" });
    expect(await screen.findByText("“Not for us” is used by Sky.")).toBeTruthy();
  });

  it("name the campaigns that use them, and say so before one is removed", async () => {
    const { user } = show();
    const list = await screen.findByRole("region", { name: "Not for us" });
    const link = await within(list).findByRole("link", { name: "Sky" });
    expect(link.getAttribute("href")).toBe("/desk/b/campaigns/sky");
    expect(screen.getByRole("region", { name: "Own words" }).textContent).toContain("No campaign uses it");
    await user.click(within(list).getByRole("button", { name: "Remove" }));
    expect(screen.getByRole("alertdialog").textContent).toContain("It is used by Sky.");
  });

  it("are searched by name and term", async () => {
    const { user } = show();
    await user.type(await screen.findByLabelText("Find a list or term"), "renew");
    await waitFor(() => expect(screen.queryByRole("region", { name: "Own words" })).toBeNull());
    expect(screen.getByRole("region", { name: "Not for us" }).textContent).not.toContain("horoscope");
    await user.type(screen.getByLabelText("Find a list or term"), "zzz");
    expect(await screen.findByText("No list and no table has “renewzzz”.")).toBeTruthy();
  });

  it("take in the lines of a file after those that are there, with its name", async () => {
    const { user } = show();
    await user.click(await screen.findByRole("button", { name: "New list" }));
    await user.type(screen.getByLabelText(/^Terms/), "lyrids");
    const file = new File(["leonids\ngeminids\n"], "Showers of the year.txt", { type: "text/plain" });
    await user.upload(screen.getByLabelText("File for the list"), file);
    await waitFor(() =>
      expect((screen.getByLabelText(/^Terms/) as HTMLTextAreaElement).value).toBe(
        "lyrids\nleonids\ngeminids",
      ),
    );
    expect((screen.getByLabelText("Name") as HTMLInputElement).value).toBe("Showers of the year");
  });

  it("say what is wrong with a file that is no text, and keep what was typed", async () => {
    const { user } = show();
    await user.click(await screen.findByRole("button", { name: "New list" }));
    await user.type(screen.getByLabelText(/^Terms/), "lyrids");
    const file = new File([new Uint8Array([0xff, 0xfe, 0x80])], "terms.txt", { type: "text/plain" });
    await user.upload(screen.getByLabelText("File for the list"), file);
    expect((await screen.findByRole("alert")).textContent).toContain("no text in UTF-8");
    expect((screen.getByLabelText(/^Terms/) as HTMLTextAreaElement).value).toBe("lyrids");
  });

  it("have tables beside them, as lines of CSV", async () => {
    const add = "POST /api/blogs/{blog}/term-tables";
    const { user, calls } = show({ [add]: TABLES[0] });
    await user.click(await screen.findByRole("button", { name: "New table" }));
    await user.type(screen.getByLabelText("Name"), "Scopes");
    await user.type(screen.getByLabelText(/^Lines/), "scope,telescope");
    await user.click(screen.getByRole("button", { name: "Keep the table" }));
    expect(last(calls, add).body).toEqual({ name: "Scopes", text: "scope,telescope" });
  });

  it("say what they are for where there are none", async () => {
    const { user } = show({}, { word_lists: [], term_tables: [] });
    await user.click(await screen.findByRole("button", { name: "Make the first one" }));
    expect(screen.getByLabelText("Name")).toBeTruthy();
  });
});
