import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { blogQuery } from "@/api/blogs";
import type { ShapeStep } from "@/api/campaigns";
import { servicesQuery } from "@/api/services";
import { Held, pick, shown } from "@/testing/render";
import { newStep } from "./kinds";
import { StepSentence } from "./StepSentence";

function sentence<K extends ShapeStep["kind"]>(
  kind: K,
  changes: Partial<Extract<ShapeStep, { kind: K }>> = {},
  fault?: string,
) {
  const seen: ShapeStep[] = [];
  const view = shown(
    <Held<ShapeStep> begun={{ ...newStep(kind, "s", "own"), ...changes } as ShapeStep} seen={seen}>
      {(step, set) => (
        <StepSentence
          blog="b"
          step={step}
          saved={undefined}
          fault={fault}
          fields={["reading_time"]}
          onChange={set}
        />
      )}
    </Held>,
  );
  return { ...view, last: () => seen.at(-1) };
}

describe("steps of Shape", () => {
  it("remove or keep what a selector finds, and say what is wrong with it", async () => {
    const { user, last } = sentence("select", {}, "this is no CSS selector");
    expect(screen.getByRole("alert").textContent).toContain("no CSS selector");
    await pick(user, "What happens", "Keep only");
    const selector = screen.getByLabelText("Selector");
    await user.clear(selector);
    await user.type(selector, "article > p");
    expect(last()).toMatchObject({ mode: "keep", selector: "article > p" });
  });

  it("cut before or after a phrase, with its paragraph or without", async () => {
    const { user, last } = sentence("cut");
    await pick(user, "Side", "before");
    await pick(user, "Its paragraph", "but keep that paragraph");
    expect(last()).toMatchObject({ side: "before", with_it: false });
  });

  it("leave out links, but those to hosts that stay", async () => {
    const { user, last } = sentence("links");
    expect(screen.queryByText(/except to/)).toBeNull();
    await pick(user, "Which go", "remove links to other hosts");
    await user.click(screen.getByRole("button", { name: "host" }));
    await user.type(screen.getByLabelText("Hosts that stay: word"), "club.example{Enter}");
    expect(last()).toMatchObject({ gone: "outside", kept_hosts: ["club.example"] });
  });

  it("mark links and add a partner’s tag by host", async () => {
    const { user, last } = sentence("links", { rel: [] });
    await user.click(screen.getByRole("button", { name: "sponsored" }));
    await user.click(screen.getByRole("button", { name: "new tab" }));
    await user.click(screen.getByRole("button", { name: "host name=value" }));
    await user.type(screen.getByLabelText("Parameters by host: word"), "shop.example tag=meadow=1{Enter}");
    expect(last()).toMatchObject({
      rel: ["sponsored"],
      new_tab: true,
      parameters: [{ host: "shop.example", name: "tag", value: "meadow=1" }],
    });
  });

  it("take pictures by size, and say no more of size where all go", async () => {
    const { user, last } = sentence("pictures");
    const width = screen.getByLabelText("Width of the box");
    await user.clear(width);
    await user.type(width, "800");
    expect(last()).toMatchObject({ box_width: 800 });
    await user.click(screen.getByRole("button", { name: "remove all" }));
    expect(screen.queryByLabelText("Width of the box")).toBeNull();
  });

  it("cut title or body in the unit that is asked for", async () => {
    const { user, last } = sentence("shorten");
    await pick(user, "Part", "title");
    expect(screen.queryByLabelText("Ellipsis")).toBeNull();
    await pick(user, "Unit", "characters");
    await user.clear(screen.getByLabelText("Ellipsis"));
    await user.type(screen.getByLabelText("Ellipsis"), " (more)");
    expect(last()).toMatchObject({ part: "title", unit: "characters", ellipsis: " (more)" });
  });

  it("reword by a table, in a share of the words, and headings where asked", async () => {
    const { user, last } = sentence("reword");
    expect(screen.getByRole("link", { name: "Make a table of terms first" })).toBeTruthy();
    await pick(user, "Headings", "are reworded");
    const share = screen.getByLabelText("Share of words");
    await user.clear(share);
    await user.type(share, "35");
    expect(last()).toMatchObject({ percent: 35, headings: true, where: "body" });
    await pick(user, "Where", "in the title");
    expect(screen.queryByLabelText("Headings")).toBeNull();
  });

  it("work on the item, or on a text that a template has made", async () => {
    const { user, last } = sentence("shorten");
    await pick(user, "Works on", "on the finished excerpt");
    expect(last()).toMatchObject({ of: "excerpt" });
    expect(screen.queryByLabelText("Part")).toBeNull();
    await pick(user, "Works on", "on the field reading_time");
    expect(last()).toMatchObject({ of: "fields.reading_time" });
  });

  it("translate by services in the order in which they are chosen, with a glossary", async () => {
    const { user, queries, last } = sentence("translate");
    expect(screen.queryByRole("link", { name: "Add a language service first" })).toBeNull();
    queries.setQueryData(servicesQuery("b").queryKey, {
      services: [
        { key: "service", name: "Machine", tasks: ["translate"] },
        { key: "model", name: "Model", tasks: ["translate", "reword"] },
        { key: "words", name: "Words", tasks: ["reword"] },
      ],
    } as never);
    queries.setQueryData(blogQuery("b").queryKey, {
      word_lists: [],
      term_tables: [{ key: "names", name: "Names", lines: 2, text: "" }],
    } as never);
    await user.click(await screen.findByRole("button", { name: "Model" }));
    expect(screen.queryByRole("button", { name: "Words" })).toBeNull();
    expect(screen.getByRole("button", { name: "2. Model" })).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Names" }));
    await user.clear(screen.getByLabelText("Language"));
    await user.type(screen.getByLabelText("Language"), "ja");
    expect(last()).toMatchObject({ services: ["service", "model"], glossary: ["names"], to: "ja" });
    await user.click(screen.getByRole("button", { name: "1. Machine" }));
    await user.click(screen.getByRole("button", { name: "Model" }));
    expect(last()).toMatchObject({ services: ["model"] });
  });

  it("lead to the services where none can do it", async () => {
    const { queries } = sentence("rewrite");
    queries.setQueryData(servicesQuery("b").queryKey, { services: [] } as never);
    expect(await screen.findByRole("link", { name: "Add a language service first" })).toBeTruthy();
  });

  it("have a text summarised in so many words", async () => {
    const { user, last } = sentence("rewrite");
    await pick(user, "How", "in fewer words");
    expect(screen.queryByLabelText("Where")).toBeNull();
    await user.clear(screen.getByLabelText("Words"));
    await user.type(screen.getByLabelText("Words"), "50");
    expect(last()).toMatchObject({ task: "summarise", words: 50 });
  });

  it("summarise to so many words", async () => {
    const { user, last } = sentence("summarise");
    const words = screen.getByLabelText("Words");
    await user.clear(words);
    await user.type(words, "60");
    expect(last()).toMatchObject({ kind: "summarise", words: 60 });
  });

  it("say what is wrong with what is put there, and leave the link alone", () => {
    sentence("replace", {}, "at character 1 of what is put there: the pattern has no group 2");
    expect(screen.getByRole("alert").textContent).toContain("has no group 2");
    expect(screen.getByLabelText("As a link to").getAttribute("aria-invalid")).not.toBe("true");
  });

  it("replace words so many times, as a link where one is given", async () => {
    const { user, last } = sentence("replace");
    const what = screen.getByLabelText("What");
    await user.clear(what);
    await user.type(what, "scope");
    await user.click(screen.getByRole("button", { name: "every time" }));
    await user.type(screen.getByLabelText("As a link to"), "https://shop.example/");
    await pick(user, "Where", "in title and body");
    expect(last()).toMatchObject({ what: "scope", first: 1, link: "https://shop.example/", where: "both" });
  });

  it("go by the tables of the blog, and by one at least", async () => {
    const { user, queries, last } = sentence("table");
    queries.setQueryData(blogQuery("b").queryKey, {
      word_lists: [],
      term_tables: [
        { key: "own", name: "Own words", lines: 2, text: "" },
        { key: "shops", name: "Shops", lines: 1, text: "" },
      ],
    } as never);
    await user.click(await screen.findByRole("button", { name: "Shops (1 line)" }));
    expect(last()).toMatchObject({ tables: ["own", "shops"] });
    await user.click(screen.getByRole("button", { name: "Own words (2 lines)" }));
    await user.click(screen.getByRole("button", { name: "Shops (1 line)" }));
    expect(last()).toMatchObject({ tables: ["shops"] });
  });

  it("lead to the tables where the blog has none", () => {
    sentence("table");
    expect(screen.getByRole("link", { name: "Make a table of terms first" })).toBeTruthy();
  });

  it("choose one of several standing texts", async () => {
    const { user, last } = sentence("standing", { variants: ["One way."] });
    await user.click(screen.getByRole("button", { name: "another variant" }));
    expect(screen.getByText(/one of these for each item/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Remove variant 1" }));
    expect(last()).toMatchObject({ variants: ["Another way to say it."] });
    await pick(user, "Side", "before");
    expect(last()).toMatchObject({ side: "before" });
  });

  it("tidy up part by part", async () => {
    const { user, last } = sentence("tidy");
    await user.click(screen.getByRole("button", { name: "typographic quotes" }));
    await user.click(screen.getByRole("button", { name: "tracking pixels" }));
    expect(last()).toMatchObject({ quotes: true, pixels: false, empty: true });
  });
});
