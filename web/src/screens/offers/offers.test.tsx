import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { Product, OfferRules as Rules } from "@/api/offers";
import { answering, last, screenAt } from "@/testing/server";
import OfferClicks from "./OfferClicks";
import OfferPage from "./OfferPage";
import OfferRules from "./OfferRules";
import Offers from "./Offers";
import { money } from "./words";

const ONE = "/api/blogs/{blog}/offers/{number}";
const RING: Product = {
  id: 7,
  key: "glass/G-7",
  shop: "glass",
  number: "G-7",
  title: "Ring",
  link: "https://shop.example/7",
  picture: "",
  state: "fresh",
  price: "89.5",
  list_price: "104",
  currency: "EUR",
  availability: "in_stock",
  rating: 4.2,
  rating_count: 31,
  read_at: "2026-11-24T12:00:00Z",
  ends: "2026-11-25T12:00:00Z",
  due_at: "2026-11-25T02:00:00Z",
  fault: null,
  said: "",
  held: null,
  posts: 2,
  clicks: 3,
  successor: "",
  successor_title: "",
};
const STATES = { fresh: 1, old: 0, held: 1, no_price: 0, not_told: 0, withdrawn: 0 };
const HELD: Product = {
  ...RING,
  state: "held",
  fault: "jump",
  held: { price: "8.95", list_price: null, currency: "EUR", refused: false },
};
const RULES: Rules = {
  version: 4,
  shops: [{ shop: "glass", products: 2 }],
  untagged_hosts: ["other.example"],
  document: {
    shops: [],
    partners: [{ host: "shop.example", region: "", parameters: { tag: "m" }, path: "" }],
    disclosure: "",
    counts_links: false,
    has_basket: false,
  },
};

function list(query = "", answer: object = {}) {
  const page = { rows: [RING], total: 1, states: STATES, shops: RULES.shops, ...answer };
  const calls = answering({ "GET /api/blogs/{blog}/offers": page });
  return { calls, ...screenAt(`/desk/b/offers${query}`, "/desk/:blog/offers", <Offers />) };
}

describe("the list of products", () => {
  it("says what each costs, what readers see, and who shows it", async () => {
    list();
    const row = (await screen.findByRole("link", { name: "Ring" })).closest("li") as HTMLElement;
    expect(row.textContent).toContain("€89.50");
    expect(row.textContent).toContain("€104.00");
    expect(row.textContent).toContain("Shown");
    expect(row.textContent).toContain("2 posts3 clicks");
  });

  it("is narrowed by what readers see, which stands in the address", async () => {
    const { user, calls } = list();
    await user.click(await screen.findByRole("radio", { name: "Held 1" }));
    expect(last(calls, "GET /api/blogs/{blog}/offers").query).toMatchObject({ state: "held", offset: 0 });
  });

  it("says how a first product comes", async () => {
    list("", { rows: [], total: 0, states: { ...STATES, fresh: 0, held: 0 } });
    expect(await screen.findByText(/Write {% offer price %} into the body/)).toBeTruthy();
  });
});

function product(row: Product, answers: Record<string, unknown> = {}) {
  const page = { product: row, past: [], posts: [] };
  const calls = answering({ [`GET ${ONE}`]: page, [`POST ${ONE}/price`]: page, ...answers });
  return { calls, ...screenAt("/desk/b/offers/7", "/desk/:blog/offers/:number", <OfferPage />) };
}

describe("a product", () => {
  it("asks about a price that jumped, and sends the answer", async () => {
    const { user, calls } = product(HELD);
    const held = within(await screen.findByRole("region", { name: "Held price" }));
    expect(held.getByText(/Readers see no price until somebody has looked/)).toBeTruthy();
    await user.click(held.getByRole("button", { name: "It is a mistake" }));
    expect(last(calls, `POST ${ONE}/price`).body).toEqual({ take: false });
  });

  it("says of a refused price what readers see, and can take it over after all", async () => {
    product({ ...HELD, held: { price: "8.95", list_price: null, currency: "EUR", refused: true } });
    expect(await screen.findByText(/Somebody has called it a mistake/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "It is right" })).toBeTruthy();
    expect(screen.queryByRole("button", { name: "It is a mistake" })).toBeNull();
  });

  it("says why the last reading gave no price, in the words of the shop", async () => {
    product({ ...RING, state: "no_price", price: null, fault: "not_a_price", said: "from 20 to 30" });
    expect(await screen.findByText(/what the shop states is no single price: “from 20 to 30”/)).toBeTruthy();
  });

  it("is only shown to a viewer", async () => {
    product(HELD, { "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "viewer" }] });
    expect(await screen.findByRole("region", { name: "Held price" })).toBeTruthy();
    for (const name of ["It is right", "Read it now"])
      expect(screen.queryByRole("button", { name })).toBeNull();
  });
});

function rules(answers: Record<string, unknown> = {}) {
  const calls = answering({ "GET /api/blogs/{blog}/offer-rules": RULES, ...answers });
  return { calls, ...screenAt("/desk/b/offers/rules", "/desk/:blog/offers/rules", <OfferRules />) };
}

describe("shops and partner links", () => {
  const SAVE = "PUT /api/blogs/{blog}/offer-rules";

  it("are saved together, from the version that they began from", async () => {
    const { user, calls } = rules({ [SAVE]: { ...RULES, version: 5 } });
    await user.type(await screen.findByLabelText(/^Disclosure/), "We earn by it.");
    await user.clear(screen.getByLabelText("Parameters of partner 1"));
    await user.type(screen.getByLabelText("Parameters of partner 1"), "tag=new&from=b");
    await user.click(screen.getByRole("button", { name: "other.example" }));
    await user.click(screen.getByRole("button", { name: "Save" }));
    const { body } = last(calls, SAVE) as { body: { begun: number; document: Rules["document"] } };
    expect(body.begun).toBe(4);
    expect(body.document.disclosure).toBe("We earn by it.");
    expect(body.document.partners.map(({ host, parameters }) => [host, parameters])).toEqual([
      ["shop.example", { tag: "new", from: "b" }],
      ["other.example", {}],
    ]);
  });

  it("save a tag that is still being typed, and keep each row's own when one is removed", async () => {
    const second = { host: "second.example", region: "", parameters: { id: "2" }, path: "" };
    const both = {
      ...RULES,
      document: { ...RULES.document, partners: [...RULES.document.partners, second] },
    };
    const { user, calls } = rules({ "GET /api/blogs/{blog}/offer-rules": both, [SAVE]: RULES });
    await user.type(await screen.findByLabelText("Parameters of partner 2"), "&x=3");
    await user.click(screen.getByRole("button", { name: "Remove partner 1" }));
    expect((screen.getByLabelText("Parameters of partner 1") as HTMLInputElement).value).toBe("id=2&x=3");
    await user.type(screen.getByLabelText("Parameters of partner 1"), "4");
    await user.keyboard("{Control>}s{/Control}");
    const { body } = last(calls, SAVE) as { body: { document: Rules["document"] } };
    expect(body.document.partners).toEqual([{ ...second, parameters: { id: "2", x: "34" } }]);
  });

  it("have rules for each shop with products", async () => {
    const { user, calls } = rules({ [SAVE]: RULES });
    const hours = await screen.findByLabelText("Hours for glass");
    await user.clear(hours);
    await user.type(hours, "6");
    await user.click(screen.getByRole("button", { name: "Save" }));
    const { body } = last(calls, SAVE) as { body: { document: Rules["document"] } };
    expect(body.document.shops).toEqual([
      { shop: "glass", hours: 6, tells_prices: true, jump_percent: 50, basket: "" },
    ]);
  });

  it("say what is wrong where it stands", async () => {
    const fault = { path: "document.partners.0.path", message: "it begins with /", hint: "" };
    const { user } = rules({ [SAVE]: new ProblemError(422, "No", "Not valid.", [fault]) });
    await user.type(await screen.findByLabelText("Path of partner 1"), "x");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(await screen.findByText("it begins with /")).toBeTruthy();
  });

  it("are for owners", async () => {
    rules({ "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "editor" }] });
    expect(await screen.findByText("For owners")).toBeTruthy();
  });
});

describe("followed links", () => {
  const CLICKS = "GET /api/blogs/{blog}/offer-clicks";

  function clicks(answer: object) {
    const empty = { total: 0, counts_links: true, days: [], rows: [] };
    const calls = answering({ [CLICKS]: { ...empty, ...answer } });
    return { calls, ...screenAt("/desk/b/offers/clicks", "/desk/:blog/offers/clicks", <OfferClicks />) };
  }

  it("are counted by post, product or place", async () => {
    const { user, calls } = clicks({ total: 5, rows: [{ key: "3", name: "A guide", clicks: 5 }] });
    expect((await screen.findByRole("link", { name: "A guide" })).getAttribute("href")).toBe(
      "/desk/b/posts/3",
    );
    await user.click(screen.getByRole("radio", { name: "by product" }));
    expect(last(calls, CLICKS).query).toEqual({ days: 30, by: "product" });
  });

  it("say when a blog does not count them", async () => {
    clicks({ counts_links: false });
    expect(await screen.findByText("Links are not counted")).toBeTruthy();
  });
});

describe("amounts", () => {
  it("are written with their currency, a dash for none", () => {
    expect([money("89.5", "EUR"), money("1200", "JPY"), money(null, "")]).toEqual([
      "€89.50",
      "JP¥1,200",
      "–",
    ]);
  });
});
