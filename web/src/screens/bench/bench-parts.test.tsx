import { render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Decision, Item, Note, ProofRow } from "@/api/proofs";
import { ItemKind } from "@/components/ItemKind";
import { SourceText } from "@/components/SourceText";
import { Trace } from "@/components/Trace";
import { shown } from "@/testing/render";
import { ItemRow } from "./items/ItemRow";
import { Outcome } from "./Outcome";
import { Holes } from "./panels/Holes";
import { RuleList } from "./panels/RuleList";
import { RuleCard } from "./rules/RuleCard";

const ROW: ProofRow = {
  id: 1,
  title: "A comet tonight",
  source: "Club",
  dated: new Date().toISOString(),
  words: 120,
  verdict: "publish",
  left_at: null,
  reason: null,
  categories: ["Sky"],
  was: null,
};

describe("a row of the proof", () => {
  it("is picked without being chosen", async () => {
    const choose = vi.fn();
    const pick = vi.fn();
    const { user, container } = shown(
      <ItemRow
        place={1}
        of={1}
        row={ROW}
        chosen={false}
        picked={false}
        picking
        onChoose={choose}
        onPick={pick}
      />,
    );
    expect(screen.getByRole("option").getAttribute("aria-checked")).toBe("false");
    await user.click(container.querySelector("[data-pick]") as HTMLElement);
    expect([choose.mock.calls.length, pick.mock.calls.length]).toEqual([0, 1]);
    await user.click(screen.getByText("A comet tonight"));
    expect(choose).toHaveBeenCalledOnce();
  });

  it("says what an edit changes in place of the reason", () => {
    const was = { verdict: "refused", left_at: "sift", moved: false, reworded: false } as const;
    shown(
      <ItemRow
        place={1}
        of={1}
        row={{ ...ROW, was }}
        chosen
        picked={false}
        picking={false}
        onChoose={() => {}}
        onPick={() => {}}
      />,
    );
    expect(screen.getByText("now kept, was refused")).toBeTruthy();
  });
});

describe("the end of the funnel", () => {
  it("counts every way a post can go", () => {
    const verdicts = [
      "publish",
      "publish",
      "hold",
      "scheduled",
      "private",
      "draft",
      "waiting",
      "refused",
    ] as const;
    const { container } = shown(<Outcome items={verdicts.map((verdict, id) => ({ ...ROW, id, verdict }))} />);
    expect(container.textContent).toBe(
      "2 go out · 1 goes out privately · 1 scheduled · 1 waits for review · 1 draft · 1 waits for a later run",
    );
  });

  it("does not count what waits for its text before it", () => {
    const waits = { ...ROW, verdict: "waiting", left_at: "shape" } as const;
    expect(shown(<Outcome items={[waits]} />).container.textContent).toBe("");
  });
});

describe("variables without a value", () => {
  it("are named with the source and the template", () => {
    shown(
      <Holes holes={[{ source: "Wire", variable: "author", parts: ["title", "fields.by"], ages: false }]} />,
    );
    expect(screen.getByRole("listitem").textContent).toBe(
      "author is always empty for Wire, and the title, the field by asks for it",
    );
  });

  it("say which of them age in a text", () => {
    shown(<Holes holes={[{ source: "", variable: "facts.price", parts: ["body"], ages: true }]} />);
    expect(screen.getByRole("listitem").textContent).toBe(
      "facts.price stays in the post as it is now and will be wrong one day: write {% offer price %} into the body, and the body asks for it",
    );
  });

  it("take no room where there are none", () => {
    const { container } = shown(<Holes holes={[]} />);
    expect(container.textContent).toBe("");
  });
});

const RULES = [
  { id: "a", title: "", on: true },
  { id: "b", title: "", on: false },
];
const KINDS = [{ kind: "plain", label: "Plain", hint: "nothing more" }] as const;

function list(onChange: (rules: { id: string; title: string; on: boolean }[]) => void) {
  return (
    <RuleList
      label="Rules"
      one="rule"
      add="Add a rule"
      rules={RULES}
      saved={RULES}
      kinds={KINDS}
      make={() => ({ id: "c", title: "", on: true })}
      onChange={onChange}
      sentence={(rule) => `rule ${rule.id}`}
    />
  );
}

describe("rules asked one after another", () => {
  it("are moved, switched off and removed", async () => {
    const change = vi.fn();
    const { user } = shown(list(change));
    await user.click(screen.getByRole("button", { name: "Move rule a down" }));
    expect(change).toHaveBeenLastCalledWith([RULES[1], RULES[0]]);
    await user.click(screen.getByRole("button", { name: /^Switch off/ }));
    expect(change).toHaveBeenLastCalledWith([{ id: "a", title: "", on: false }, RULES[1]]);
    await user.click(screen.getAllByRole("button", { name: /^Remove/ })[0] as HTMLElement);
    expect(change).toHaveBeenLastCalledWith([RULES[1]]);
  });

  it("are copied with an id of their own, after the one that was copied", async () => {
    const change = vi.fn();
    const { user } = shown(list(change));
    await user.click(screen.getByRole("button", { name: "Copy rule a" }));
    expect(change).toHaveBeenLastCalledWith([RULES[0], { id: "a-2", title: "", on: true }, RULES[1]]);
  });

  it("are named: Enter keeps the name, Escape does not, and the focus returns", async () => {
    const change = vi.fn();
    const { user } = shown(list(change));
    await user.click(screen.getByRole("button", { name: "Name rule a" }));
    expect(document.activeElement).toBe(screen.getByLabelText("Name of rule a"));
    await user.keyboard("No adverts{Escape}");
    expect(change).not.toHaveBeenCalled();
    await user.click(screen.getByRole("button", { name: "Name rule a" }));
    await user.keyboard("  No adverts {Enter}");
    expect(change).toHaveBeenCalledTimes(1);
    expect(change).toHaveBeenLastCalledWith([{ id: "a", title: "No adverts", on: true }, RULES[1]]);
    expect(document.activeElement).toBe(screen.getByRole("button", { name: "Name rule a" }));
  });

  it("keep a name when the pointer leaves the field", async () => {
    const change = vi.fn();
    const { user } = shown(list(change));
    await user.click(screen.getByRole("button", { name: "Name rule a" }));
    await user.keyboard("No adverts");
    await user.click(screen.getByRole("button", { name: "Add a rule" }));
    expect(change).toHaveBeenLastCalledWith([{ id: "a", title: "No adverts", on: true }, RULES[1]]);
  });

  it("are added from a menu by the keyboard", async () => {
    const change = vi.fn();
    const { user } = shown(list(change));
    screen.getByRole("button", { name: "Add a rule" }).focus();
    await user.keyboard("{Enter}");
    await user.keyboard("{Enter}");
    expect(change).toHaveBeenLastCalledWith([...RULES, { id: "c", title: "", on: true }]);
  });
});

describe("a rule’s card", () => {
  it("says that it is switched off in place of its effect", () => {
    shown(
      <RuleCard name="Rule a" on={false} footer="refuses 3" onToggle={() => {}}>
        a sentence
      </RuleCard>,
    );
    expect(screen.queryByText("refuses 3")).toBeNull();
    expect(screen.getByText("switched off")).toBeTruthy();
  });
});

function note(stage: Note["stage"], code: string, more: Partial<Note> = {}): Note {
  return { stage, code, rule: "", rule_title: "", against: false, data: {}, ...more };
}

const HIT = {
  term: "comet*",
  in: "title",
  start: 2,
  end: 7,
  before: "A ",
  match: "comet",
  after: " tonight",
  times: 2,
};
const DECISION = {
  item: { title: "A comet tonight", text: "Look up.", summary: "", link: "https://club.example/1" },
  verdict: "hold",
  left_at: null,
  trace: [
    note("gather", "gathered", { data: { words: 3, pictures: 0, body: "full" } }),
    note("sift", "terms.found", { rule: "sky", data: { hits: [HIT] } }),
    note("place", "category.given", { rule: "t", data: { given: [{ name: "Sky", because: "Comets" }] } }),
    note("release", "hold.no_picture", { rule: "pic", against: true }),
    note("release", "held.by_rule", { data: { rules: ["pic"] } }),
  ],
  draft: null,
} as unknown as Decision;

describe("the trace of an item", () => {
  it("words every stage and shows the place of a term", () => {
    const { container } = shown(<Trace blog="b" decision={DECISION} />);
    expect(container.querySelector("mark")?.textContent).toBe("comet");
    expect(container.textContent).toContain("Sky (for Comets)");
    expect(container.textContent).toContain("no lead image");
    expect(container.textContent).toContain("a rule asks for it: pic");
    expect(container.textContent).toContain("1 of 1 rule passed");
  });

  it("leads to the post that an item was compared with, where that is one of this blog", () => {
    const seen = { ref: "post:7", title: "A comet", within_pass: false, against: "blog" };
    const told = (code: string, data: Record<string, unknown>) => {
      const decision = { ...DECISION, trace: [note("match", code, { data })] } as Decision;
      const { container, unmount } = shown(<Trace blog="b" decision={decision} />);
      const address = container.querySelector("a")?.getAttribute("href") ?? null;
      unmount();
      return address;
    };
    expect(told("match.link", seen)).toBe("/desk/b/posts/7");
    expect(told("match.new", { against: "campaign", nearest: seen })).toBe("/desk/b/posts/7");
    expect(told("match.link", { ...seen, against: "everything" })).toBeNull();
    expect(told("match.link", { ...seen, ref: "item:club:1" })).toBeNull();
  });

  it("ends at the stage where the item left", () => {
    const left = {
      ...DECISION,
      verdict: "refused",
      left_at: "sift",
      trace: [...DECISION.trace.slice(0, 1), note("sift", "terms.no_term", { rule: "sky", against: true })],
    } as Decision;
    const { container } = shown(<Trace blog="b" decision={left} />);
    expect(container.textContent).toContain("no term");
    expect(container.textContent).not.toContain("Match");
  });
});

describe("the text of the source", () => {
  it("marks the words that rules found", () => {
    const { container } = shown(<SourceText decision={DECISION} />);
    expect([...container.querySelectorAll("mark")].map((mark) => mark.textContent)).toEqual(["comet"]);
  });
});

describe("what kind of thing an item is", () => {
  const item = (facts: Record<string, string>) =>
    ({
      facts,
      media: [{ kind: "picture", url: "https://a.example/s.jpg", origin: "feed" }],
    }) as unknown as Item;

  it("is told of films, products and questions, with what matters of each", () => {
    const { rerender } = render(
      <ItemKind
        item={item({ player: "https://f.example/7", length: "200.0", views: "1200.0", has_captions: "no" })}
      />,
    );
    expect(screen.getByRole("region", { name: "Film" }).textContent).toContain(
      "3:20 · 1,200 views · no captions",
    );
    expect(screen.getByRole("link").getAttribute("href")).toBe("https://f.example/7");
    rerender(
      <ItemKind
        item={item({
          price: "29.5",
          currency: "EUR",
          list_price: "40.0",
          availability: "in stock",
          rating: "4.0",
        })}
      />,
    );
    expect(screen.getByRole("region", { name: "Product" }).textContent).toContain(
      "EUR 29.50 · instead of 40 · in stock · rated 4",
    );
    rerender(<ItemKind item={item({ answers: "1", votes: "9" })} />);
    expect(screen.getByRole("region", { name: "Question" }).textContent).toContain("1 answer · 9 votes");
    rerender(<ItemKind item={item({ keyword: "comet" })} />);
    expect(screen.queryByRole("region")).toBeNull();
  });
});
