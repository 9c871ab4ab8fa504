import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { WordListRow } from "@/api/blogs";
import type { SiftRule } from "@/api/campaigns";
import { newSiftRule } from "@/lib/rules";
import type { SiftKind } from "@/lib/sift-kinds";
import { Held, pick, shown } from "@/testing/render";
import { SiftSentence } from "./SiftSentence";

const LISTS = [
  { key: "bad", name: "Not for us", words: ["horoscope", "renewals"] },
] as unknown as WordListRow[];

function rule<K extends SiftKind>(kind: K, changes: Partial<Extract<SiftRule, { kind: K }>> = {}) {
  return { ...newSiftRule(kind, []), ...changes } as SiftRule;
}

function sentence(begun: SiftRule, faults: Record<string, string> = {}, saved?: SiftRule) {
  const seen: SiftRule[] = [];
  const view = shown(
    <Held<SiftRule> begun={begun} seen={seen}>
      {(value, set) => (
        <SiftSentence
          rule={value}
          saved={saved}
          lists={LISTS}
          faultOf={(path) => faults[path]}
          path="sift.rules.0"
          onChange={set}
        />
      )}
    </Held>,
  );
  return { ...view, last: () => seen.at(-1) };
}

describe("a rule of terms", () => {
  it("takes how many, and in which form, as words of the sentence", async () => {
    const { user, last } = sentence(rule("terms"));
    await pick(user, "How many", "all of");
    await pick(user, "Forms of a word", "in any form (German)");
    expect(last()).toMatchObject({ mode: "all", stem: "de" });
    await pick(user, "Forms of a word", "as written");
    expect(last()).toMatchObject({ stem: "" });
  });

  it("keeps its last term until a list takes its place", async () => {
    const { user, last } = sentence(rule("terms", { terms: ["sponsored"] }));
    expect(screen.queryByRole("button", { name: "Remove sponsored" })).toBeNull();
    screen.getByRole("button", { name: "list" }).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("menuitem", { name: /^Not for us/ }));
    expect(last()).toMatchObject({ lists: ["bad"] });
    expect(screen.getByText("Not for us (2)")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Remove the list Not for us" }));
    expect(last()).toMatchObject({ lists: [] });
  });

  it("asks for the name of a field of the source’s own", async () => {
    const { user, last } = sentence(rule("terms", { field: "custom" }));
    await user.type(screen.getByLabelText("Name of the field"), "mount");
    expect(last()).toMatchObject({ field: "custom", name: "mount" });
  });
});

describe("rules that are typed", () => {
  it("point at the character that a search cannot be read at", async () => {
    const { user, last } = sentence(rule("query"), {
      "sift.rules.0.query": "at character 7: not closed",
    });
    expect(screen.getByRole("alert").textContent).toBe(`${" ".repeat(7)}↑not closed`);
    const search = screen.getByLabelText("Search");
    await user.clear(search);
    await user.type(search, "comet OR nova");
    expect(last()).toMatchObject({ kind: "query", query: "comet OR nova" });
  });

  it("say whether a pattern is wanted, and whether its case matters", async () => {
    const { user, last } = sentence(rule("pattern"));
    await pick(user, "Wanted", "matches");
    await pick(user, "Case", "case matters");
    expect(last()).toMatchObject({ wanted: true, case_matters: true });
    await user.type(screen.getByLabelText("Pattern"), "x");
    expect(last()).toMatchObject({ pattern: "^ad:x" });
  });

  it("mark the values that are new since the rules were saved", async () => {
    const saved = rule("values");
    const { user, last } = sentence(saved, {}, saved);
    await user.click(screen.getByRole("button", { name: "add" }));
    await user.type(screen.getByLabelText("Values: word"), "Ida Farrow{Enter}");
    expect(last()).toMatchObject({ values: ["nobody", "Ida Farrow"] });
    await pick(user, "Wanted", "is one of");
    expect(last()).toMatchObject({ wanted: true });
  });
});

describe("a rule of numbers", () => {
  it("goes from one bound to both and to the other", async () => {
    const { user, last } = sentence(rule("number", { at_least: 120 }));
    await pick(user, "Bounds", "is between");
    expect(last()).toMatchObject({ at_least: 120, at_most: 1000 });
    await pick(user, "Bounds", "is at most");
    expect(last()).toMatchObject({ at_least: null, at_most: 1000 });
  });

  it("never lets the lower bound rise over the upper one", async () => {
    const { user, last } = sentence(rule("number", { at_least: 10, at_most: 20 }));
    const least = screen.getByLabelText("At least");
    await user.clear(least);
    await user.type(least, "30");
    expect(last()).toMatchObject({ at_least: 3 });
    expect(least.getAttribute("aria-invalid")).toBe("true");
  });

  it("says what holds where a fact is not stated, and only where that can be", async () => {
    const { user, last } = sentence(rule("number"));
    expect(screen.queryByLabelText("Where it is not stated")).toBeNull();
    await pick(user, "Field", "Rating");
    await pick(user, "Where it is not stated", "passes");
    expect(last()).toMatchObject({ field: "rating", unknown: "passes" });
  });
});

describe("a rule of age", () => {
  it("counts in days or hours, whichever is asked for", async () => {
    const { user, last } = sentence(rule("age", { within_hours: 72 }));
    expect((screen.getByLabelText("How long") as HTMLInputElement).value).toBe("3");
    await pick(user, "Unit", "hours");
    expect((screen.getByLabelText("How long") as HTMLInputElement).value).toBe("72");
    await user.type(screen.getByLabelText("How long"), "0");
    expect(last()).toMatchObject({ within_hours: 720 });
  });

  it("rounds to whole days when days are asked for", async () => {
    const { user, last } = sentence(rule("age", { within_hours: 30 }));
    await pick(user, "Unit", "days");
    expect(last()).toMatchObject({ within_hours: 24 });
  });
});

describe("a rule of presence", () => {
  it("wants a trait or its absence", async () => {
    const { user, last } = sentence(rule("presence"));
    await pick(user, "Wanted", "lacks");
    await pick(user, "What", "a film");
    expect(last()).toMatchObject({ wanted: false, trait: "film" });
  });
});

describe("a group", () => {
  it("holds rules of every kind, groups among them, and keeps at least one", async () => {
    const { user, last } = sentence(rule("group"));
    await pick(user, "How many rules", "none of");
    screen.getByRole("button", { name: "Add to the group" }).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("menuitem", { name: /group/i }));
    expect(last()).toMatchObject({
      mode: "none",
      rules: [{ kind: "terms" }, { kind: "number" }, { kind: "group" }],
    });
    for (const id of ["group", "number"])
      await user.click(screen.getByRole("button", { name: `Remove rule ${id}` }));
    expect(last()).toMatchObject({ rules: [{ kind: "terms" }] });
    expect(within(screen.getByRole("list")).queryByRole("button", { name: /^Remove rule/ })).toBeNull();
  });

  it("shows a fault of an inner rule at that rule", () => {
    const inner = rule("query");
    sentence(rule("group", { rules: [inner] }), { "sift.rules.0.rules.0.query": "not closed" });
    expect(screen.getByRole("alert").textContent).toContain("not closed");
  });
});

describe("a kind that core describes", () => {
  it("is drawn from its sentence, with a control for each place", async () => {
    const { user, last, container } = sentence(rule("capitals"));
    expect(container.textContent).toBe("Capitals are at most  percent of the title's letters");
    const most = screen.getByLabelText("At most");
    await user.clear(most);
    await user.type(most, "101");
    expect(most.getAttribute("aria-invalid")).toBe("true");
    await user.clear(most);
    await user.type(most, "35");
    expect(last()).toMatchObject({ kind: "capitals", at_most: 35 });
  });

  it("takes yes and no as words, and asks for a name only where one is needed", async () => {
    const { user, last } = sentence(rule("presence"));
    expect(screen.queryByLabelText("Name of the field")).toBeNull();
    await pick(user, "Wanted", "lacks");
    expect(last()).toMatchObject({ wanted: false, trait: "picture" });
    await pick(user, "What", "a field of its own");
    await user.type(screen.getByLabelText("Name of the field"), "mount");
    expect(last()).toMatchObject({ wanted: false, trait: "custom", name: "mount" });
  });
});
