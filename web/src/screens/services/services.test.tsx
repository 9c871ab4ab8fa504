import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Service } from "@/api/services";
import { answering, last, screenAt } from "@/testing/server";
import Services from "./Services";
import { bodyOf, faultOfRest, writtenOf } from "./written";

const SERVICE: Service = {
  key: "machine",
  version: 3,
  name: "Machine",
  document: {
    address: "https://machine.example/texts",
    model: "",
    body: '{"texts": "{texts}"}',
    answer: "texts",
  },
  has_secret: true,
  most_a_day: 5000,
  price: "20",
  currency: "EUR",
  state: "over_limit",
  detail: "It is used up.",
  checked_at: null,
  waits_until: null,
  sent_today: 1200,
  tasks: ["translate", "reword"],
};
const LISTED = "GET /api/blogs/{blog}/services";
const MAKE = "POST /api/blogs/{blog}/services";
const SAVE = "PUT /api/blogs/{blog}/services/{key}";
const TRY = "POST /api/blogs/{blog}/services/{key}/try";
const AGAIN = "POST /api/blogs/{blog}/services-again";
const BILL = "GET /api/blogs/{blog}/services/{key}/bill";
const PAGE = { services: [SERVICE], answered: 12, waiting: 2, kept: 1 };
const READY = [
  { key: "chat", document: { address: "http://127.0.0.1/", model: "local", body: '"{model} {prompt}"' } },
];

function show(answers: Record<string, unknown> = {}) {
  const calls = answering({
    [LISTED]: PAGE,
    "GET /api/services/ready": READY,
    "GET /api/blogs/{blog}/library-uses": {
      lists: {},
      tables: {},
      services: { machine: [{ slug: "h", name: "Hill" }] },
    },
    ...answers,
  });
  return { calls, ...screenAt("/desk/b/services", "/desk/:blog/services", <Services />) };
}

describe("language services", () => {
  it("say how they stand, what was sent and who asks them", async () => {
    show();
    const list = await screen.findByRole("list", { name: "Language services" });
    for (const said of ["used up", "It is used up.", "1,200 of 5,000 characters", "asked by Hill", "rewords"])
      expect(list.textContent).toContain(said);
    expect(screen.getByText("12 texts kept · 2 asked for · 1 left as they were")).toBeTruthy();
  });

  it("are asked again about what stayed as it was, after a question", async () => {
    const { user, calls } = show({ [AGAIN]: { texts: 1, task: 4 } });
    await user.click(await screen.findByRole("button", { name: "Ask again" }));
    const question = await screen.findByRole("alertdialog");
    expect(question.textContent).toContain("Ask again about 1 text?");
    await user.click(within(question).getByRole("button", { name: "Ask again" }));
    expect(last(calls, AGAIN).path).toEqual({ blog: "b" });
  });

  it("begin with a form, and keep what a person writes", async () => {
    const { user, calls } = show({ [MAKE]: SERVICE });
    await user.click(await screen.findByRole("button", { name: "New service" }));
    await user.selectOptions(screen.getByLabelText(/Begin with/), "chat");
    await user.type(screen.getByLabelText("Name"), "Here");
    expect(screen.getByLabelText<HTMLInputElement>("Model").value).toBe("local");
    await user.type(screen.getByLabelText(/^Key/), "secret");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, MAKE).body).toMatchObject({
      name: "Here",
      secret: "secret",
      price: null,
      document: { address: "http://127.0.0.1/", model: "local", body: '"{model} {prompt}"', answer: "" },
    });
  });

  it("are saved with the version that the change began from", async () => {
    const { user, calls } = show({ [SAVE]: SERVICE });
    await user.click(await screen.findByRole("button", { name: "Change" }));
    await user.type(screen.getByLabelText("Name"), " two");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, SAVE).body).toMatchObject({ name: "Machine two", version: 3, secret: "" });
  });

  it("are tried with a text, and say what no post would get", async () => {
    const tried = { answer: "Eins", fault: "numbers", detail: "", charged: 4, milliseconds: 20 };
    const { user, calls } = show({ [TRY]: tried });
    await user.click(await screen.findByRole("button", { name: "Try" }));
    await user.click(screen.getByRole("button", { name: "Send it" }));
    const answer = await screen.findByRole("status");
    expect(answer.textContent).toContain("No post would get this: a number is missing or another one");
    expect(last(calls, TRY).body).toMatchObject({ task: "translate", source: "en", target: "de" });
  });

  it("show their bill by campaign, with its price", async () => {
    const billed = [{ campaign: "Hill", requests: 3, texts: 9, characters: 50_000, charged: 0 }];
    const { user } = show({ [BILL]: billed });
    await user.click(await screen.findByRole("button", { name: "Bill" }));
    const row = (await screen.findAllByRole("row"))[1] as HTMLElement;
    expect(within(row).getByText("1.00")).toBeTruthy();
  });

  it("know why a description is no JSON", () => {
    expect(faultOfRest("{")).not.toBe("");
    expect(faultOfRest("[]")).toContain("no object");
    expect(faultOfRest("{}")).toBe("");
    const { document } = bodyOf(writtenOf(SERVICE));
    expect({ ...document, body: JSON.parse(String(document.body)) }).toEqual({
      ...SERVICE.document,
      body: { texts: "{texts}" },
    });
  });
});
