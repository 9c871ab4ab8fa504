import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Blog } from "@/api/blogs";
import { blogQuery } from "@/api/blogs";
import { type CampaignDocument, defaultsQuery, layoutsQuery } from "@/api/campaigns";
import { ProblemError } from "@/api/client";
import { type Languages, languagesQuery } from "@/api/editions";
import { SIFT_KINDS } from "@/lib/sift-kinds";
import { DEFAULTS, PROOF, WithBench } from "@/testing/bench";
import { pick, shown } from "@/testing/render";
import { DefaultsMark } from "../DefaultsMark";
import { EditBar } from "../EditBar";
import { STEP_KINDS } from "../rules/steps/kinds";
import type { BenchState } from "../useBench";
import { MatchPanel } from "./MatchPanel";
import { PlacePanel } from "./PlacePanel";
import { ReleasePanel } from "./ReleasePanel";
import { ShapePanel } from "./ShapePanel";
import { AddSiftRule, SiftPanel } from "./SiftPanel";

const BLOG = {
  categories: ["Sky"],
  tags: [],
  bylines: ["Ada"],
  word_lists: [{ key: "bad", name: "Not for us", words: ["a", "b"] }],
  term_tables: [{ key: "own", name: "Own words", lines: 2, text: "" }],
} as unknown as Blog;

interface Begun {
  begun?: CampaignDocument;
  proof?: typeof PROOF;
  error?: Error;
}

function panel(show: (bench: BenchState) => React.ReactNode, begun: Begun = {}) {
  const seen: CampaignDocument[] = [];
  const view = shown(
    <WithBench seen={seen} {...begun}>
      {show}
    </WithBench>,
  );
  view.queries.setQueryData(blogQuery("b").queryKey, BLOG);
  view.queries.setQueryData(layoutsQuery.queryKey, [
    { key: "note", name: "Link note", purpose: "An excerpt.", body: "<p>{{ excerpt }}</p>" },
  ]);
  return { ...view, seen, last: () => seen.at(-1) ?? DEFAULTS };
}

async function choose(user: ReturnType<typeof shown>["user"], button: string, entry: RegExp) {
  screen.getByRole("button", { name: button }).focus();
  await user.keyboard("{Enter}");
  await user.click(await screen.findByRole("menuitem", { name: entry }));
}

describe("the panel of Sift", () => {
  it("offers every kind of rule, and each has a sentence", async () => {
    const { user, last } = panel((bench) => (
      <>
        <AddSiftRule bench={bench} />
        <SiftPanel blog="b" bench={bench} />
      </>
    ));
    expect(screen.getByText(/No rule yet/)).toBeTruthy();
    for (const { label } of SIFT_KINDS) await choose(user, "Add rule", new RegExp(`^${label}`));
    expect(last().sift.rules.map(({ kind }) => kind)).toEqual(SIFT_KINDS.map(({ kind }) => kind));
    for (const { id } of last().sift.rules)
      expect(screen.getByRole("group", { name: `rule ${id}` })).toBeTruthy();
  });

  it("says what a rule does, and that it has been idle for long", () => {
    const rule = {
      id: "age",
      kind: "age",
      title: "",
      on: true,
      failing: "refuse",
      within_hours: 24,
    } as const;
    panel((bench) => <SiftPanel blog="b" bench={bench} />, {
      begun: { ...DEFAULTS, sift: { rules: [rule] } },
      proof: {
        ...PROOF,
        rules: { "sift.age": { against: 0, alone: 0, was_against: 3 } },
        idle: { "sift.age": 20 },
      },
    });
    const card = screen.getByRole("group", { name: "rule age" });
    expect(card.textContent).toContain("idle for 20 days");
    expect(card.textContent).toContain("was 3");
  });

  it("shows what the server found wrong under the rule it is in", () => {
    const rule = {
      id: "q",
      kind: "query",
      title: "",
      on: true,
      failing: "refuse",
      field: "title",
      name: "",
      query: 'comet "half',
    } as const;
    const faults = [{ path: "sift.rules.0.query", message: "at character 7: not closed", hint: "" }];
    panel((bench) => <SiftPanel blog="b" bench={bench} />, {
      begun: { ...DEFAULTS, sift: { rules: [rule] } },
      error: new ProblemError(422, "No", "no", faults),
    });
    expect(screen.getByRole("alert").textContent).toContain("not closed");
  });
});

describe("the panel of Match", () => {
  it("adds each comparison once", async () => {
    const { user, last } = panel((bench) => <MatchPanel bench={bench} />);
    for (const label of [
      "Nearly the same text",
      "Nearly the same title",
      "Same product",
      "Same film",
      "Same keyword",
    ])
      await choose(user, "Add a comparison", new RegExp(`^${label}`));
    expect(last().match.rules).toHaveLength(6);
    expect(screen.queryByRole("button", { name: "Add a comparison" })).toBeNull();
  });

  it("keeps an order of what stays of several", async () => {
    const { user, last } = panel((bench) => <MatchPanel bench={bench} />);
    await choose(user, "Which stays: add", /^the longest/);
    await user.click(screen.getByRole("button", { name: "the longest: earlier" }));
    expect(last().match.prefer).toEqual(["longest", "earliest"]);
  });
});

describe("the panel of Shape", () => {
  it("offers every kind of step, and each has a sentence", async () => {
    const { user, last } = panel((bench) => <ShapePanel blog="b" bench={bench} />);
    for (const { label } of STEP_KINDS) await choose(user, "Add a step", new RegExp(`^${label}`));
    expect(last().shape.steps.map(({ kind }) => kind)).toEqual(STEP_KINDS.map(({ kind }) => kind));
    const steps = within(screen.getByRole("list", { name: "Steps" })).getAllByRole("listitem");
    expect(steps).toHaveLength(STEP_KINDS.length);
    expect(last().shape.steps.find((step) => step.kind === "table")).toMatchObject({ tables: ["own"] });
  });

  it("moves a step by the keyboard and switches it off", async () => {
    const { user, last } = panel((bench) => <ShapePanel blog="b" bench={bench} />);
    await choose(user, "Add a step", /^Tidy up/);
    await choose(user, "Add a step", /^Cut/);
    screen.getByRole("button", { name: "Move step cut up" }).focus();
    await user.keyboard("{Enter}");
    expect(last().shape.steps.map(({ id }) => id)).toEqual(["cut", "tidy"]);
    await user.click(screen.getAllByRole("button", { name: /^Switch off/ })[0] as HTMLElement);
    expect(last().shape.steps[0]?.on).toBe(false);
    await user.click(screen.getByRole("button", { name: "Move step cut down" }));
    expect(last().shape.steps.map(({ id, on }) => [id, on])).toEqual([
      ["tidy", true],
      ["cut", false],
    ]);
  });

  it("takes a layout for the body", async () => {
    const { user, last } = panel((bench) => <ShapePanel blog="b" bench={bench} />);
    await choose(user, "Layouts", /^Link note/);
    expect(last().shape.body).toBe("<p>{{ excerpt }}</p>");
  });

  it("warns of variables that a source never fills", () => {
    panel((bench) => <ShapePanel blog="b" bench={bench} />, {
      proof: { ...PROOF, holes: [{ source: "Wire", variable: "author", parts: ["title"], ages: false }] },
    });
    expect(screen.getByRole("list", { name: "Variables without a value" }).textContent).toContain("author");
  });

  it("makes names of fields fit for templates", async () => {
    const { user, last } = panel((bench) => <ShapePanel blog="b" bench={bench} />);
    await choose(user, "Add a field", /^A field/);
    await user.clear(screen.getByLabelText("Name of the field"));
    await user.type(screen.getByLabelText("Name of the field"), "Bright ness");
    expect(last().shape.fields[0]?.name).toBe("bright_ness");
  });
});

describe("the panel of Place", () => {
  it("says that the usual category counts only where no rule finds another", async () => {
    const { user, last } = panel((bench) => <PlacePanel blog="b" bench={bench} />);
    expect(screen.queryByText(/unless a rule below/)).toBeNull();
    for (const label of ["By the source", "By words", "By the keyword", "Always"])
      await choose(user, "Add a category rule", new RegExp(`^${label}`));
    expect(screen.getByText(/unless a rule below/)).toBeTruthy();
    expect(last().place.category_rules.map(({ kind }) => kind)).toEqual([
      "table",
      "terms",
      "keyword",
      "fixed",
    ]);
  });

  it("limits tags only where rules give them", async () => {
    const { user, last } = panel((bench) => <PlacePanel blog="b" bench={bench} />);
    expect(screen.queryByRole("group", { name: "Limits of tags" })).toBeNull();
    await choose(user, "Add a tag rule", /^From the title/);
    const limits = screen.getByRole("group", { name: "Limits of tags" });
    await user.click(within(limits).getByRole("button", { name: "however many" }));
    expect(last().place.at_most_tags).toBe(6);
    within(limits).getByRole("button", { name: "list" }).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("menuitem", { name: /^Not for us/ }));
    expect(last().place.remove_lists).toEqual(["bad"]);
  });

  it("marks what differs from the saved rules", async () => {
    const { user } = panel((bench) => <PlacePanel blog="b" bench={bench} />);
    const card = screen.getByRole("group", { name: "Byline" });
    expect(card.className).not.toContain("plum");
    await user.type(within(card).getByLabelText("Byline"), "Ada");
    expect(card.className).toContain("plum");
  });
});

describe("the panel of Release", () => {
  it("sets the mode and keeps the rest", async () => {
    const { user, last } = panel((bench) => <ReleasePanel blog="b" bench={bench} />);
    await choose(user, "Hold when …", /^No lead image/);
    await user.click(screen.getByRole("radio", { name: /^Publish by date/ }));
    expect(last().release).toMatchObject({ mode: "scheduled", hold_when: [{ kind: "no_picture" }] });
  });
});

describe("the editions of a campaign", () => {
  function release(...tags: string[]) {
    const view = panel((bench) => <ReleasePanel blog="b" bench={bench} />);
    const languages = tags.map((tag) => ({ tag, services: ["machine"] }));
    view.queries.setQueryData(languagesQuery("b").queryKey, { document: { languages } } as Languages);
    return view;
  }

  it("are chosen by language, with what becomes of them", async () => {
    const { user, last } = release("de", "ja");
    await screen.findByRole("combobox", { name: "Edition in German" });
    await pick(user, "Edition in German", /that goes out with it/);
    await pick(user, "Together or one after another", /waits until/);
    expect(last().release).toMatchObject({ editions: [{ to: "de", mode: "publish" }], together: true });
    await pick(user, "Edition in German", /makes no edition/);
    expect(last().release.editions).toEqual([]);
  });

  it("lead to the settings where the blog has one language", async () => {
    release();
    expect(await screen.findByRole("link", { name: "Add another" })).toBeTruthy();
  });
});

describe("the bar at the foot", () => {
  it("says what it is compared with, and leads back", async () => {
    const { user } = panel((bench) => (
      <>
        <button type="button" onClick={() => bench.setAgainst(1)}>
          compare
        </button>
        <EditBar bench={bench} />
      </>
    ));
    expect(screen.queryByText(/Against revision/)).toBeNull();
    await user.click(screen.getByRole("button", { name: "compare" }));
    expect(screen.getByText(/Against revision 1/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Compare with the saved rules" }));
    expect(screen.queryByText(/Against revision/)).toBeNull();
  });

  it("says that rules do not hold as written", () => {
    panel((bench) => <EditBar bench={bench} />, { error: new Error("no") });
    expect(screen.getByText("No proof could be made of these edits.")).toBeTruthy();
  });
});

describe("the mark of differences from the defaults", () => {
  it("counts where a stage differs from the defaults of the blog", async () => {
    const mine = { ...DEFAULTS, place: { ...DEFAULTS.place, byline: "Ada" } };
    const { queries } = shown(<DefaultsMark blog="b" stage="place" document={mine} />);
    expect(screen.queryByText("1 change")).toBeNull();
    queries.setQueryData(defaultsQuery("b").queryKey, DEFAULTS);
    expect(await screen.findByText("1 change")).toBeTruthy();
  });
});
