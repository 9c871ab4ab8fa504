import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { WordListRow } from "@/api/blogs";
import type { CampaignDocument, CategoryRule, HoldRule, MatchRule, TagRule } from "@/api/campaigns";
import { DEFAULTS } from "@/testing/bench";
import { Held, shown } from "@/testing/render";
import { BlogPictures } from "./BlogPictures";
import { LeadSentence } from "./LeadSentence";
import { MatchSentence } from "./MatchSentence";
import { CategorySentence } from "./place/CategorySentence";
import { DateSentence } from "./place/DateSentence";
import { newCategoryRule, newTagRule } from "./place/kinds";
import { PostSettings } from "./place/PostSettings";
import { TagSentence } from "./place/TagSentence";
import { HoldSentence } from "./release/HoldSentence";
import { newHoldRule } from "./release/kinds";
import { PaceSentence } from "./release/PaceSentence";

type Lead = CampaignDocument["shape"]["lead"];
type Place = CampaignDocument["place"];
type Release = CampaignDocument["release"];

const LISTS = [{ key: "showers", name: "Showers", words: ["lyrids", "leonids"] }] as unknown as WordListRow[];
const PLACE = {
  date: "original",
  dates: { a_day: 3, first: null, last: null, hours: 24, hours_ahead: 0 },
  kind: "article",
  visibility: "public",
  pass_phrase: "",
  language: "",
  canonical: "original",
  comments: false,
  pinned: false,
} as unknown as Place;

describe("rules of Place", () => {
  it("have an id of their own in their list", () => {
    const first = newCategoryRule("table", []);
    expect(newCategoryRule("table", [first]).id).toBe("table-2");
    expect(newTagRule("title", []).kind).toBe("title");
  });

  it("sort by a table of the source’s words", async () => {
    const seen: CategoryRule[] = [];
    const { user } = shown(
      <Held<CategoryRule> begun={newCategoryRule("table", [])} seen={seen}>
        {(rule, set) => <CategorySentence rule={rule} known={["Sky"]} lists={[]} onChange={set} />}
      </Held>,
    );
    await user.click(screen.getByRole("button", { name: "row" }));
    await user.type(screen.getByLabelText("their word 1"), "Meteors");
    await user.type(screen.getByLabelText("our category 1"), "Sky");
    expect(seen.at(-1)).toMatchObject({ rows: [{ word: "Meteors", name: "Sky" }], unmapped: "fall_back" });
  });

  it("read branches once they know what parts them", async () => {
    const seen: CategoryRule[] = [];
    const { user } = shown(
      <Held<CategoryRule> begun={newCategoryRule("table", [])} seen={seen}>
        {(rule, set) => <CategorySentence rule={rule} known={[]} lists={[]} onChange={set} />}
      </Held>,
    );
    expect(screen.queryByLabelText("Depth")).toBeNull();
    await user.type(screen.getByLabelText("Separator"), ">");
    await user.clear(screen.getByLabelText("Depth"));
    await user.type(screen.getByLabelText("Depth"), "2");
    expect(seen.at(-1)).toMatchObject({ separator: ">", depth: 2 });
  });

  it("offer the words that the sources use and the table has not, with counts", async () => {
    const made: CategoryRule[] = [];
    const begun = { ...newCategoryRule("table", []), rows: [{ word: "gear", name: "Gear bench" }] };
    const { user } = shown(
      <Held<CategoryRule> begun={begun as CategoryRule} seen={made}>
        {(rule, set) => (
          <CategorySentence
            rule={rule}
            known={["Sky"]}
            lists={[]}
            seen={[
              { name: "Gear", count: 30 },
              { name: "Evenings", count: 12 },
            ]}
            onChange={set}
          />
        )}
      </Held>,
    );
    expect(screen.queryByRole("button", { name: "Gear 30" })).toBeNull();
    await user.click(screen.getByRole("button", { name: "Evenings 12" }));
    await user.type(screen.getByLabelText("our category 2"), "Sky");
    expect(made.at(-1)).toMatchObject({ rows: [begun.rows[0], { word: "Evenings", name: "Sky" }] });
    expect(screen.queryByText(/Seen, and not in the table/)).toBeNull();
  });

  it("sort by words found in the item", async () => {
    const seen: CategoryRule[] = [];
    const { user } = shown(
      <Held<CategoryRule> begun={newCategoryRule("terms", [])} seen={seen}>
        {(rule, set) => <CategorySentence rule={rule} known={[]} lists={LISTS} onChange={set} />}
      </Held>,
    );
    await user.click(screen.getByRole("button", { name: "add" }));
    await user.type(screen.getByLabelText("Terms: word"), "fireball*{Enter}");
    expect(seen.at(-1)).toMatchObject({ kind: "terms", terms: ["news", "fireball*"] });
    screen.getByRole("button", { name: "list" }).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("menuitem", { name: /^Showers/ }));
    expect(seen.at(-1)).toMatchObject({ terms: ["news", "fireball*"], lists: ["showers"] });
  });

  it("take so many phrases of the title", async () => {
    const seen: TagRule[] = [];
    const { user } = shown(
      <Held<TagRule> begun={newTagRule("title", [])} seen={seen}>
        {(rule, set) => <TagSentence rule={rule} onChange={set} />}
      </Held>,
    );
    screen.getByLabelText("Phrases").focus();
    await user.keyboard("{ArrowUp}");
    expect(seen.at(-1)).toMatchObject({ at_most: 4 });
  });

  it("say what a date ahead comes to", () => {
    const none = () => {};
    const { rerender } = shown(
      <DateSentence place={PLACE} scheduled={false} onSchedule={none} onChange={none} />,
    );
    expect(screen.getByText(/A future date becomes the time of the run/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Let Release publish by date" })).toBeNull();
    rerender(<DateSentence place={PLACE} scheduled onSchedule={none} onChange={none} />);
    expect(screen.getByText(/the post waits for it/)).toBeTruthy();
  });

  it("offer to publish by date where dates lie ahead", async () => {
    const place = { ...PLACE, date: "random", dates: { ...PLACE.dates, hours_ahead: 12 } } as Place;
    let asked = 0;
    const { user } = shown(
      <DateSentence place={place} scheduled={false} onSchedule={() => asked++} onChange={() => {}} />,
    );
    await user.click(screen.getByRole("button", { name: "Let Release publish by date" }));
    expect(asked).toBe(1);
    expect(screen.getByLabelText("Hours after").getAttribute("value")).toBe("12");
  });

  it("ask for both ends where dates are spread evenly", () => {
    const place = { ...PLACE, date: "between" } as Place;
    shown(<DateSentence place={place} scheduled={false} onSchedule={() => {}} onChange={() => {}} />);
    expect(screen.getAllByRole("button", { name: "a moment" })).toHaveLength(2);
  });

  it("make a kind of post fit for an address", async () => {
    const seen: Partial<Place>[] = [];
    const { user } = shown(
      <Held<Place> begun={{ ...PLACE, kind: "" }} seen={seen as Place[]}>
        {(place, set) => <PostSettings place={place} onChange={(next) => set({ ...place, ...next })} />}
      </Held>,
    );
    await user.type(screen.getByLabelText("Kind of post"), "Shop Guide");
    expect(seen.at(-1)?.kind).toBe("shop-guide");
    await user.click(screen.getByRole("button", { name: "pinned on top" }));
    expect(seen.at(-1)?.pinned).toBe(true);
  });

  it("ask for the phrase only where one opens the posts", () => {
    const { rerender } = shown(<PostSettings place={PLACE} onChange={() => {}} />);
    expect(screen.queryByLabelText("Pass phrase")).toBeNull();
    rerender(<PostSettings place={{ ...PLACE, visibility: "phrase" } as Place} onChange={() => {}} />);
    expect(screen.getByLabelText("Pass phrase")).toBeTruthy();
  });
});

describe("rules of Release", () => {
  it("hold short posts and those with words left over", async () => {
    const seen: HoldRule[] = [];
    const { user } = shown(
      <Held<HoldRule> begun={newHoldRule("few_words", [])} seen={seen}>
        {(rule, set) => <HoldSentence rule={rule} onChange={set} />}
      </Held>,
    );
    const words = screen.getByLabelText("Words");
    await user.clear(words);
    await user.type(words, "80");
    expect(seen.at(-1)).toMatchObject({ kind: "few_words", fewer_than: 80 });
    shown(<HoldSentence rule={newHoldRule("no_picture", [])} onChange={() => {}} />);
    expect(screen.getByText(/has no lead image/)).toBeTruthy();
  });

  it("set a pace and take it off", async () => {
    const seen: Release[] = [];
    const begun = { ...DEFAULTS.release, mode: "publish" } as Release;
    const { user } = shown(
      <Held<Release> begun={begun} seen={seen}>
        {(release, set) => (
          <PaceSentence release={release} onChange={(next) => set({ ...release, ...next })} />
        )}
      </Held>,
    );
    await user.click(screen.getByRole("button", { name: "no limit" }));
    expect(seen.at(-1)?.pace).toEqual({ posts: 3, per: "hour", when_full: "wait" });
    await user.click(screen.getByRole("button", { name: "any number of posts" }));
    expect(seen.at(-1)?.at_most).toBe(10);
    await user.click(screen.getByRole("button", { name: "No limit: no limit" }));
    expect(seen.at(-1)?.pace).toBeNull();
  });
});

describe("the lead image", () => {
  const lead: Lead = {
    order: ["feed", "text"],
    least_width: 0,
    least_height: 0,
    unknown_size_counts: true,
    pictures: [],
    take_out_of_body: true,
    pool: "",
  };

  it("says what is done with unknown sizes only where a size is asked for", async () => {
    const seen: Lead[] = [];
    const { user } = shown(
      <Held<Lead> begun={lead} seen={seen}>
        {(value, set) => <LeadSentence lead={value} onChange={set} />}
      </Held>,
    );
    expect(screen.queryByLabelText("Pictures of unknown size")).toBeNull();
    await user.click(screen.getByRole("button", { name: "any width" }));
    expect(seen.at(-1)?.least_width).toBe(400);
    expect(screen.getByLabelText("Pictures of unknown size")).toBeTruthy();
  });

  it("reads pictures of the blog line by line", async () => {
    const seen: Lead["pictures"][] = [];
    const { user } = shown(
      <Held<Lead["pictures"]> begun={[]} seen={seen}>
        {(pictures, set) => <BlogPictures pictures={pictures} onChange={set} />}
      </Held>,
    );
    await user.click(screen.getByRole("textbox"));
    await user.paste("https://x.example/a.png A ridge at night\nno address\nhttps://x.example/b.png");
    expect(seen.at(-1)).toEqual([
      { url: "https://x.example/a.png", alt: "A ridge at night" },
      { url: "https://x.example/b.png", alt: "" },
    ]);
    expect((screen.getByRole("textbox") as HTMLTextAreaElement).value).toContain("no address");
  });
});

describe("comparisons", () => {
  const rules: [MatchRule, RegExp][] = [
    [{ id: "a", kind: "identity", title: "", on: true }, /the same entry of the same feed/],
    [{ id: "b", kind: "link", title: "", on: true }, /tracking parameters/],
    [{ id: "c", kind: "product", title: "", on: true }, /trade number/],
    [{ id: "d", kind: "media", title: "", on: true }, /by its file/],
    [{ id: "e", kind: "keyword", title: "", on: true }, /one post for each keyword/],
  ];

  it("say in words what is compared", () => {
    for (const [rule, said] of rules) {
      const { unmount } = shown(<MatchSentence rule={rule} onChange={() => {}} />);
      expect(screen.getByText(said)).toBeTruthy();
      unmount();
    }
  });

  it("take a likeness in per cent", async () => {
    const seen: MatchRule[] = [];
    const { user } = shown(
      <Held<MatchRule>
        begun={{ id: "n", kind: "near_text", title: "", on: true, likeness: 0.65, at_least_words: 25 }}
        seen={seen}
      >
        {(rule, set) => <MatchSentence rule={rule} onChange={set} />}
      </Held>,
    );
    screen.getByLabelText("Likeness of texts in per cent").focus();
    await user.keyboard("{ArrowUp}");
    expect(seen.at(-1)).toMatchObject({ likeness: 0.66 });
  });
});
