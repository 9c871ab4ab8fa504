import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { ProblemError } from "@/api/client";
import type { Platform } from "@/api/platforms";
import type { Source } from "@/api/sources";
import { drafts } from "@/lib/editing/draft-store";
import { SourceAsks } from "@/screens/sources/SourceAsks";
import { answering, last, screenAt } from "@/testing/server";
import Connections from "./Connections";
import NewPlatformSource from "./NewPlatformSource";
import { pointedAt, written } from "./paths";
import { choiceWords, fieldsOf, startOf } from "./schema";

const WIRE: Platform = {
  key: "wire",
  name: "News wire",
  purpose: "Short news.",
  secrets: [{ name: "key", label: "Key", hidden: true }],
  limit_a_day: 1000,
  signs_in: false,
  by_words: true,
  form: {
    $defs: { Span: { type: "string", enum: ["latest", "most_seen"] } },
    properties: {
      span: { $ref: "#/$defs/Span", title: "Which news", description: "The last day.", default: "latest" },
      begin: { anyOf: [{ type: "string", format: "date" }, { type: "null" }], title: "From", default: null },
      topic: { type: "string", title: "Topic", maxLength: 60, default: "" },
      most: { type: "integer", title: "Most", minimum: 1, maximum: 50, default: 20 },
      captions: { type: "boolean", title: "Captions", default: true },
      numbers: { type: "array", items: { type: "string" }, title: "Numbers", default: [] },
    },
  },
};
const JSON_API: Platform = {
  ...WIRE,
  key: "json",
  name: "JSON API",
  secrets: [
    { name: "header", label: "Header", hidden: false },
    { name: "key", label: "Value of the header", hidden: true },
  ],
  form: {
    properties: {
      address: { type: "string", title: "Address", default: "" },
      body: { type: "string", title: "Body", maxLength: 10_000, default: "" },
      list: { type: "string", title: "The list", default: "" },
      fields: { type: "object", title: "Fields", additionalProperties: { type: "string" } },
    },
  },
};
const CONNECTION = {
  key: "vale",
  version: 1,
  platform: "wire",
  name: "Vale wire",
  address: "https://api.example/wire",
  state: "valid",
  detail: "",
  checked_at: "2026-11-24T12:00:00Z",
  waits_until: null,
  limit_a_day: 1000,
  used: [
    { who: "", used: 1 },
    { who: "wire-comets", used: 9 },
  ],
  sources: 1,
};
const TESTED = {
  described: "the last 24 hours",
  items: [{ title: "A comet", link: "https://a.example/1", published: null, words: 90, picture: "" }],
  total: 64,
  more: true,
  fields: { title: 1, text: 1, price: 0 },
  answer: null,
  error: "",
};
const PLATFORMS = "GET /api/platforms";
const LISTED = "GET /api/blogs/{blog}/connections";
const MAKE = "POST /api/blogs/{blog}/connections";
const SAVE = "PUT /api/blogs/{blog}/connections/{key}";
const CHECK = "POST /api/blogs/{blog}/connections/{key}/check";
const TEST = "POST /api/blogs/{blog}/platform-test";
const ADD = "POST /api/blogs/{blog}/platform-sources";
const READ = "POST /api/blogs/{blog}/sources/{key}/read";
const USUAL = { [PLATFORMS]: [WIRE, JSON_API], [LISTED]: [CONNECTION] };

describe("the form of a platform", () => {
  it("is made from the schema of its parameters", () => {
    const fields = fieldsOf(WIRE.form);
    expect(fields.map(({ kind }) => kind)).toEqual(["choice", "day", "text", "number", "yes", "texts"]);
    expect(fields[0]).toMatchObject({
      label: "Which news",
      hint: "The last day.",
      choices: ["latest", "most_seen"],
    });
    expect(fieldsOf(JSON_API.form).map(({ kind }) => kind)).toEqual(["text", "lines", "text", "mapping"]);
    expect(fields[3]).toMatchObject({ least: 1, most: 50, start: 20 });
    expect(startOf(WIRE)).toEqual({
      span: "latest",
      begin: null,
      topic: "",
      most: 20,
      captions: true,
      numbers: [],
    });
    expect(startOf(JSON_API).fields).toMatchObject({ title: "title" });
    expect(choiceWords("most_seen")).toBe("most seen");
  });

  it("writes paths for what is pointed at", () => {
    expect(written(["a", 0, "b c", "d"])).toBe('a[0]."b c".d');
    expect(pointedAt(["data", "rows", 0, "title", "en"])).toEqual({ list: "data.rows", field: "title.en" });
    expect(pointedAt([0, "images", 1, "src"])).toEqual({ list: "", field: "images[1].src" });
    expect(pointedAt(["data", "rows"])).toEqual({ list: "data.rows", field: "" });
  });
});

describe("connections", () => {
  const show = (answers: Record<string, unknown> = {}, at = "/desk/b/connections") => {
    const calls = answering({ ...USUAL, ...answers });
    return { calls, ...screenAt(at, "/desk/:blog/connections", <Connections />) };
  };

  it("say how they stand, and what their quota went to", async () => {
    show();
    const list = await screen.findByRole("list", { name: "Connections" });
    expect(list.textContent).toContain("10 of 1000 requests used today");
    expect(list.textContent).toContain("checks and tests 1, wire-comets 9");
  });

  it("say what to do where one does not work", async () => {
    const detail = "The key has expired. Make a new one at the platform, and enter it here.";
    const { user } = show({ [CHECK]: { ...CONNECTION, state: "expired", detail } });
    await user.click(await screen.findByRole("button", { name: "Check" }));
    expect(await screen.findByText(detail)).toBeTruthy();
  });

  it("are made with the fields that the platform needs, and faults stand by their field", async () => {
    const fault = new ProblemError(422, "Invalid", "Give the key.", [
      { path: "fields.key", message: "Give the key.", hint: "" },
    ]);
    let answer: unknown = fault;
    const { user, calls } = show({ [LISTED]: [], [MAKE]: () => answer });
    await user.click(await screen.findByRole("button", { name: "New connection" }));
    await user.selectOptions(screen.getByLabelText(/^Platform/), "json");
    await user.type(screen.getByLabelText(/^Address of its API/), "https://api.example/");
    await user.type(screen.getByLabelText("Header"), "X-Key");
    await user.click(screen.getByRole("button", { name: "Save and check" }));
    expect(await screen.findByText("Give the key.")).toBeTruthy();
    expect(screen.queryByText("Invalid")).toBeNull();
    answer = { ...CONNECTION, name: "JSON API", state: "unchecked" };
    await user.type(screen.getByLabelText(/^Value of the header/), "secret");
    await user.click(screen.getByRole("button", { name: "Save and check" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(last(calls, MAKE).body).toEqual({
      platform: "json",
      name: "JSON API",
      address: "https://api.example/",
      fields: { header: "X-Key", key: "secret" },
    });
  });

  it("keep name and address as a draft, and never a secret", async () => {
    const { user, unmount } = show({ [LISTED]: [] });
    await user.click(await screen.findByRole("button", { name: "New connection" }));
    await user.type(screen.getByLabelText(/^Address of its API/), "https://api.example/");
    await user.type(screen.getByLabelText(/^Key/), "secret");
    unmount();
    await waitFor(async () => {
      const kept = await drafts().take<{ address: string; fields: object }>("", "connection b/new wire");
      expect(kept?.now).toMatchObject({ address: "https://api.example/", fields: {} });
    });
  });

  it("keep a secret that is not entered again", async () => {
    const { user, calls } = show({ [SAVE]: CONNECTION });
    await user.click(await screen.findByRole("button", { name: "Change" }));
    expect(screen.getByLabelText(/^Key/)).toHaveProperty("value", "");
    await user.click(screen.getByRole("button", { name: "Save and check" }));
    await waitFor(() => expect(last(calls, SAVE).body).toMatchObject({ fields: {}, name: "Vale wire" }));
  });

  it("lead to the platform where a person signs in there", async () => {
    const begin = "POST /api/blogs/{blog}/connections/{key}/sign-in";
    const assign = vi.spyOn(window.location, "assign").mockImplementation(() => undefined);
    const { user } = show({
      [PLATFORMS]: [{ ...WIRE, signs_in: true }],
      [begin]: { address: "https://n.example/oauth/authorize?x=1" },
    });
    await user.click(await screen.findByRole("button", { name: "Sign in" }));
    await waitFor(() => expect(assign).toHaveBeenCalledWith("https://n.example/oauth/authorize?x=1"));
  });

  it("begin with the platform that was asked for", async () => {
    show({ [LISTED]: [] }, "/desk/b/connections?platform=json");
    expect(await screen.findByLabelText(/^Platform/)).toHaveProperty("value", "json");
  });
});

describe("a new source on a platform", () => {
  const LAST = "GET /api/blogs/{blog}/last-asked/{platform}";
  const show = (platform: string, answers: Record<string, unknown> = {}) => {
    const calls = answering({
      ...USUAL,
      [TEST]: TESTED,
      [LAST]: null,
      [ADD]: { key: "wire-comets" },
      [READ]: {},
      ...answers,
    });
    const at = `/desk/b/platform-sources/new${platform && `?platform=${platform}`}`;
    return { calls, ...screenAt(at, "/desk/:blog/platform-sources/new", <NewPlatformSource />) };
  };

  it("begins with the choice of a platform", async () => {
    show("");
    expect((await screen.findByRole("link", { name: /News wire/ })).getAttribute("href")).toContain(
      "platform=wire",
    );
  });

  it("is tested, and made with what was asked", async () => {
    const { user, calls, address } = show("wire");
    await screen.findByRole("option", { name: "Vale wire" });
    await user.selectOptions(screen.getByLabelText(/^Connection/), "vale");
    await user.type(screen.getByLabelText(/^Topic/), "comets");
    await user.type(screen.getByLabelText("Numbers"), "a, b");
    await user.click(screen.getByLabelText(/^Captions/));
    await user.type(screen.getByLabelText("Search words, line 1"), "tail");
    await user.click(screen.getByRole("button", { name: "Add a line" }));
    await user.click(screen.getByRole("button", { name: "Test" }));
    expect(await screen.findByText(/64 items in all. Asked for: the last 24 hours/)).toBeTruthy();
    const parameters = { topic: "comets", numbers: ["a", "b"], captions: false, span: "latest" };
    expect(last(calls, TEST).body).toMatchObject({
      platform: "wire",
      connection: "vale",
      words: "tail",
      parameters,
    });
    await user.type(screen.getByLabelText("Name of the source"), "Wire: comets");
    await user.click(screen.getByRole("button", { name: "Make it a source" }));
    await waitFor(() => expect(address()).toBe("/desk/b/sources/wire-comets"));
    expect(last(calls, ADD).body).toMatchObject({
      title: "Wire: comets",
      search_words: [{ text: "tail", on: true }],
    });
  });

  it("begins as the last source on the platform was, and with the usual values where that is wanted", async () => {
    const { user } = show("wire", {
      [LAST]: { source: "Wire: moons", connection: "vale", parameters: { topic: "moons", span: "latest" } },
    });
    expect((await screen.findByText(/Filled in as in “Wire: moons”/)).textContent).toContain(
      "the last source",
    );
    await screen.findByRole("option", { name: "Vale wire" });
    expect(screen.getByLabelText(/^Connection/)).toHaveProperty("value", "vale");
    expect(screen.getByLabelText(/^Topic/)).toHaveProperty("value", "moons");
    await user.click(screen.getByRole("button", { name: "Begin with the usual values" }));
    expect(screen.getByLabelText(/^Topic/)).toHaveProperty("value", "");
    expect(screen.getByLabelText(/^Connection/)).toHaveProperty("value", "vale");
  });

  it("offers to ask for more where a test brought nothing", async () => {
    const wider = { name: "the archive of the last 30 days", parameters: { span: "most_seen", topic: "x" } };
    const nothing = { ...TESTED, items: [], total: 0, error: "It has nothing for this.", wider };
    const { user, calls } = show("wire", {
      [TEST]: (call: { body: { parameters: { span: string } } }) =>
        call.body.parameters.span === "most_seen" ? TESTED : nothing,
    });
    await screen.findByRole("option", { name: "Vale wire" });
    await user.selectOptions(screen.getByLabelText(/^Connection/), "vale");
    await user.click(screen.getByRole("button", { name: "Test" }));
    await user.click(await screen.findByRole("button", { name: "Ask the archive of the last 30 days" }));
    expect(last(calls, TEST).body).toMatchObject({ parameters: wider.parameters });
    expect(await screen.findByText(/64 items in all/)).toBeTruthy();
    expect(screen.getByLabelText(/^Topic/)).toHaveProperty("value", "x");
  });

  it("is begun from a YAML file", async () => {
    const read = "POST /api/blogs/{blog}/asks-yaml";
    const asked = { platform: "wire", title: "Passed on", parameters: { topic: "dome" }, search_words: [] };
    const { user, calls } = show("", { [read]: asked });
    const file = new File(["platform: wire"], "wire.yaml", { type: "application/yaml" });
    await user.upload(await screen.findByLabelText("YAML file"), file);
    await waitFor(() => expect(last(calls, read).body).toEqual({ yaml: "platform: wire" }));
    expect(await screen.findByLabelText("Name of the source")).toHaveProperty("value", "Passed on");
    expect(screen.getByLabelText(/^Topic/)).toHaveProperty("value", "dome");
  });

  it("says what is wrong with a parameter beside it", async () => {
    const faults = [{ path: "parameters.topic", message: "too long", hint: "" }];
    const { user } = show("wire", { [TEST]: new ProblemError(422, "Invalid", "It does not hold.", faults) });
    await user.click(await screen.findByRole("button", { name: "Test" }));
    expect((await screen.findByRole("alert")).textContent).toBe("too long");
  });

  it("makes a connection in its place where there is none, and a wrong key keeps the dialog open", async () => {
    let state = "wrong";
    const made = () => ({ ...CONNECTION, state, detail: "The platform does not know the key." });
    const { user, calls } = show("wire", { [LISTED]: [], [MAKE]: made, [SAVE]: made });
    await user.type(await screen.findByLabelText("Name of the source"), "Comets");
    await user.click(screen.getByRole("button", { name: "Test" }));
    expect(screen.getByRole("alert").textContent).toContain("There is no connection to this platform yet.");
    expect(calls.some(({ what }) => what === TEST)).toBe(false);
    await user.click(screen.getByText("Make one"));
    const dialog = within(await screen.findByRole("dialog", { name: "New connection" }));
    await user.type(dialog.getByLabelText(/^Address of its API/), "https://api.example/");
    await user.type(dialog.getByLabelText(/^Key/), "old{Enter}");
    const told = await screen.findByText(/the platform does not accept it/);
    expect(told.textContent).toContain("wrong key. The platform does not know the key.");
    state = "valid";
    await user.type(screen.getByLabelText(/^Key/), "new{Enter}");
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(last(calls, SAVE).body).toMatchObject({ version: 1, fields: { key: "new" } });
    expect(screen.getByLabelText("Name of the source")).toHaveProperty("value", "Comets");
  });

  it("names the connection that is missing where there are several", async () => {
    const { user, calls } = show("wire", { [LISTED]: [CONNECTION, { ...CONNECTION, key: "own" }] });
    await screen.findAllByRole("option", { name: "Vale wire" });
    await user.click(screen.getByRole("button", { name: "Test" }));
    expect(screen.getByText("Choose a connection first: the platform wants a key.")).toBeTruthy();
    expect(calls.some(({ what }) => what === TEST)).toBe(false);
  });

  it("takes the only connection by itself", async () => {
    const { user, calls } = show("wire");
    await screen.findByRole("option", { name: "Vale wire" });
    await user.click(screen.getByRole("button", { name: "Test" }));
    await waitFor(() => expect(last(calls, TEST).body).toMatchObject({ connection: "vale" }));
  });

  it("keeps what was typed when one leaves it", async () => {
    const first = show("wire");
    await first.user.type(await screen.findByLabelText("Name of the source"), "Comets");
    first.unmount();
    show("wire");
    await waitFor(() =>
      expect(screen.getByLabelText("Name of the source")).toHaveProperty("value", "Comets"),
    );
  });

  it("writes the path of a value that is pointed at in the answer", async () => {
    const answer = { data: { rows: [{ name: "A comet", at: { day: "24" } }] } };
    const { user, calls } = show("json", {
      [TEST]: { ...TESTED, answer, items: [], error: "There is no list." },
    });
    await user.type(await screen.findByLabelText("Address"), "https://a.example/");
    await user.click(screen.getByRole("button", { name: "Test" }));
    const came = await screen.findByRole("region", { name: "What came" });
    expect(within(came).getByRole("alert").textContent).toBe("There is no list.");
    await user.click(within(came).getByRole("button", { name: /data/ }));
    await user.click(within(came).getByRole("button", { name: /rows/ }));
    await user.click(screen.getAllByRole("button", { name: "Point" })[1] as HTMLElement);
    await user.click(within(came).getByRole("button", { name: /name:/ }));
    expect(screen.getByLabelText("The list")).toHaveProperty("value", "data.rows");
    expect(screen.getByLabelText("Fields: title")).toHaveProperty("value", "name");
    await user.type(screen.getByLabelText("New name for Fields"), "day{Enter}");
    await user.type(screen.getByLabelText("Fields: day"), "at.day");
    await user.click(screen.getByRole("button", { name: "Remove link" }));
    await user.click(screen.getByRole("button", { name: "Test" }));
    const { parameters } = last(calls, TEST).body as { parameters: { fields: Record<string, string> } };
    expect(parameters.fields).toMatchObject({ title: "name", day: "at.day" });
    expect(parameters.fields.link).toBeUndefined();
  });
});

describe("what a source asks its platform for", () => {
  it("shows what each line of words has brought, and is changed", async () => {
    const source = {
      key: "wire-comets",
      version: 1,
      platform: "wire",
      connection: "vale",
      parameters: startOf(WIRE),
      search_words: [
        { text: "comet", on: true },
        { text: "aurora", on: true },
      ],
    } as unknown as Source;
    const change = "PUT /api/blogs/{blog}/sources/{key}/asks";
    const calls = answering({
      ...USUAL,
      "GET /api/blogs/{blog}/sources/{key}/words": [{ text: "comet", brought: 11, kept: 3 }],
      "GET /api/blogs/{blog}/sources/{key}/suggested-words": [{ text: "dust tail", kept: 4, elsewhere: 0 }],
      [change]: source,
    });
    const shown = screenAt("/desk/b", "/desk/:blog", <SourceAsks blog="b" source={source} />);
    expect(await screen.findByText("brought 11 items, 3 kept")).toBeTruthy();
    expect(screen.getByText("has brought nothing")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Save" })).toHaveProperty("disabled", true);
    await shown.user.click(screen.getByRole("button", { name: "Suggest words" }));
    await shown.user.click(await screen.findByRole("button", { name: "dust tail" }));
    expect(screen.getByLabelText("Search words, line 3")).toHaveProperty("value", "dust tail");
    await shown.user.click(screen.getByRole("button", { name: "Remove line 3" }));
    await shown.user.click(screen.getByLabelText("Search for aurora"));
    await shown.user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, change).body).toMatchObject({
      search_words: [
        { text: "comet", on: true },
        { text: "aurora", on: false },
      ],
    });
  });
});
