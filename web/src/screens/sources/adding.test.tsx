import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { pick } from "@/testing/render";
import { answering, last, screenAt } from "@/testing/server";
import AddSources from "./AddSources";
import Sources from "./Sources";
import { ADD, CHECK, FEED } from "./samples";

describe("a list of feeds", () => {
  const LOOK = "POST /api/blogs/{blog}/feed-list-preview";
  const BRING = "POST /api/blogs/{blog}/feed-lists";
  const PREVIEW = {
    fresh: 2,
    known: 1,
    double: 0,
    bad: 1,
    folders: [{ name: "Sky", feeds: 2 }],
    first: [
      {
        place: 1,
        url: "https://club.example/feed",
        title: "Club",
        folders: [],
        known_as: "Our club",
        fault: null,
      },
      { place: 2, url: "http://", title: "Bad", folders: [], known_as: "", fault: "no_host" },
    ],
  };
  const given = (answers: Record<string, unknown>) => {
    const calls = answering(answers);
    return { calls, ...screenAt("/desk/b/sources/add", "/desk/:blog/sources/add", <AddSources />) };
  };
  const file = () => new File(["<opml/>"], "feeds.opml", { type: "text/x-opml" });

  it("is shown with what it would bring, and brought in with a label at one click", async () => {
    const { user, calls, address } = given({ [LOOK]: PREVIEW, [BRING]: { id: 7 } });
    await user.upload(screen.getByLabelText("OPML file"), file());
    const list = within(await screen.findByRole("region", { name: "feeds.opml" }));
    expect(list.getByRole("heading", { name: "2 new feeds in feeds.opml" })).toBeTruthy();
    expect(list.getByText(/1 known already, 1 without an address/)).toBeTruthy();
    expect(list.getByText("Sky 2")).toBeTruthy();
    expect(list.getByText(/is the source “Our club”/)).toBeTruthy();
    expect(list.getByText(/has no host/)).toBeTruthy();
    expect(calls.some((call) => call.what === BRING)).toBe(false);
    await user.type(list.getByLabelText(/^A label/), " Autumn ");
    await user.click(list.getByRole("button", { name: "Make 2 sources" }));
    await waitFor(() => expect(address()).toBe("/desk/b/feed-lists/7"));
    expect(last(calls, BRING).body).toEqual({
      content: btoa("<opml/>"),
      addresses: [],
      name: "feeds.opml",
      right: null,
      labels: ["Autumn"],
    });
  });

  it("says why a file is no list, and keeps what was typed", async () => {
    const { user } = given({ [LOOK]: new ProblemError(422, "No", "This is no OPML.") });
    const field = screen.getByLabelText("Addresses of feeds or sites") as HTMLTextAreaElement;
    await user.type(field, "https://mine.example/");
    await user.upload(screen.getByLabelText("OPML file"), file());
    expect(await screen.findByText("This is no OPML.")).toBeTruthy();
    expect(field.value).toBe("https://mine.example/");
  });

  it("can be addresses that were pasted", async () => {
    const { user, calls } = given({ [LOOK]: PREVIEW });
    await user.type(screen.getByLabelText("Addresses of feeds or sites"), "a.example b.example c d e");
    await user.click(screen.getByRole("button", { name: "Bring in all 5" }));
    expect(await screen.findByRole("region", { name: "5 addresses" })).toBeTruthy();
    expect(last(calls, LOOK).body).toMatchObject({ addresses: ["a.example", "b.example", "c", "d", "e"] });
  });
});

describe("adding feeds", () => {
  const show = (answers: Record<string, unknown>) => {
    const calls = answering(answers);
    return { calls, ...screenAt("/desk/b/sources/add", "/desk/:blog/sources/add", <AddSources />) };
  };
  const field = () => screen.getByLabelText("Addresses of feeds or sites");

  it("reads each address of a pasted text once, however they are parted", async () => {
    const { user, calls } = show({ [CHECK]: [FEED] });
    await user.type(field(), "a.example, b.example\na.example");
    await user.click(screen.getByRole("button", { name: "Read 2 addresses" }));
    const asked = calls.filter((call) => call.what === CHECK).map((call) => call.body);
    expect(asked).toEqual([{ addresses: ["a.example"] }, { addresses: ["b.example"] }]);
  });

  it("asks once what posts may carry, and begins with the answer at the next feed", async () => {
    const { user, calls } = show({ [CHECK]: [FEED], [ADD]: { key: "club", title: "Club", captured: 2 } });
    await user.type(field(), "a.example");
    await user.click(screen.getByRole("button", { name: "Read it" }));
    await pick(user, "What posts may carry", /^the full text/);
    await user.click(screen.getByRole("button", { name: "Add this feed" }));
    expect(last(calls, ADD).body).toMatchObject({ right: "full" });
    await user.type(field(), "b.example");
    await user.click(screen.getByRole("button", { name: "Read it" }));
    expect((await screen.findByLabelText("What posts may carry")).textContent).toMatch(/^the full text/);
  });

  it("keeps a feed under the name that it is given", async () => {
    const { user, calls } = show({ [CHECK]: [FEED], [ADD]: { key: "club", title: "Our club", captured: 2 } });
    await user.type(field(), "club.example");
    await user.click(screen.getByRole("button", { name: "Read it" }));
    const name = await screen.findByLabelText("Name");
    await user.clear(name);
    await user.type(name, "Our club");
    await user.click(screen.getByRole("button", { name: "Add this feed" }));
    expect(last(calls, ADD).body).toEqual({ url: FEED.url, title: "Our club", right: null });
    const link = await screen.findByRole("link", { name: "New campaign on it" });
    expect(link.getAttribute("href")).toBe("/desk/b/campaigns/new?source=club");
  });

  it("says what went wrong, to what, and reads it again", async () => {
    const failed = { ...FEED, error: "gone", detail: "club.example answers with 404. Look at the address." };
    const { user, calls } = show({ [CHECK]: [failed] });
    await user.type(field(), "club.example");
    await user.click(screen.getByRole("button", { name: "Read it" }));
    expect((await screen.findByRole("alert")).textContent).toContain("answers with 404");
    await user.click(screen.getByRole("button", { name: "Try again" }));
    expect(calls.filter((call) => call.what === CHECK)).toHaveLength(2);
  });

  it("follows a page to the feeds it names", async () => {
    const link = { url: "https://club.example/atom", title: "News", format: "Atom" };
    const { user, calls } = show({ [CHECK]: [{ ...FEED, leads_to: [link] }] });
    await user.type(field(), "club.example");
    await user.click(screen.getByRole("button", { name: "Read it" }));
    await user.click(await screen.findByRole("button", { name: "Read this one" }));
    expect(last(calls, CHECK).body).toEqual({ addresses: [link.url] });
  });

  it("does not offer what is read already", async () => {
    const { user } = show({ [CHECK]: [{ ...FEED, known_as: "Meadowlark" }] });
    await user.type(field(), "club.example");
    await user.click(screen.getByRole("button", { name: "Read it" }));
    expect(await screen.findByText("This source exists already: “Meadowlark”.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Add this feed" })).toBeNull();
  });
});

describe("a pattern of addresses", () => {
  const PATTERN = {
    id: 4,
    name: "Films",
    address: "https://film.example/feed?channel={channel}",
    place: "channel",
  };

  it("is filled with a list of values, and gives addresses to be read", async () => {
    answering({ "GET /api/blogs/{blog}/address-patterns": [PATTERN] });
    const { user } = screenAt("/desk/b/sources/add", "/desk/:blog/sources/add", <AddSources />);
    await user.click(screen.getByRole("button", { name: "Fill a pattern" }));
    await user.type(await screen.findByLabelText(/^Values for channel/), "ridge films,dome{Enter}dome");
    expect(screen.getByText(/channel=ridge%20films/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Take 2 addresses" }));
    expect(screen.getByLabelText("Addresses of feeds or sites")).toHaveProperty(
      "value",
      "https://film.example/feed?channel=ridge%20films\nhttps://film.example/feed?channel=dome",
    );
  });

  it("is kept by its name", async () => {
    const keep = "POST /api/blogs/{blog}/address-patterns";
    const calls = answering({ "GET /api/blogs/{blog}/address-patterns": [], [keep]: PATTERN });
    const { user } = screenAt("/desk/b/sources/add", "/desk/:blog/sources/add", <AddSources />);
    await user.click(screen.getByRole("button", { name: "Fill a pattern" }));
    await user.type(screen.getByLabelText("Its name"), "Films");
    await user.type(screen.getByLabelText(/^Address with the name/), "https://film.example/{{channel}");
    await user.click(screen.getByRole("button", { name: "Keep the pattern" }));
    expect(last(calls, keep).body).toEqual({ name: "Films", address: "https://film.example/{channel}" });
  });
});

describe("taking one page", () => {
  const TAKE = "POST /api/blogs/{blog}/taken-pages";
  const LISTED = { "GET /api/blogs/{blog}/sources": { rows: [], total: 0, labels: [] } };

  async function asked(answer: unknown) {
    const calls = answering({ ...LISTED, "GET /api/blogs/{blog}/campaigns-by-source": {}, [TAKE]: answer });
    const { user } = screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />);
    await user.click(await screen.findByRole("button", { name: "Take one page" }));
    await user.type(screen.getByLabelText(/^Address of the page/), "https://a.example/1");
    await user.click(screen.getByRole("button", { name: "Take it" }));
    return calls;
  }

  it("says what was taken and leads on to a campaign", async () => {
    const taken = {
      title: "A comet",
      words: 300,
      source: "by-hand",
      source_title: "Pages taken by hand",
      reader: "Ridge",
      fresh: true,
    };
    const calls = await asked(taken);
    expect((await screen.findByRole("status")).textContent).toContain(
      "Taken: “A comet”, 300 words, read by “Ridge”.",
    );
    expect(last(calls, TAKE).body).toEqual({ url: "https://a.example/1" });
    const on = screen.getByRole("link", { name: "New campaign on Pages taken by hand" });
    expect(on.getAttribute("href")).toBe("/desk/b/campaigns/new?source=by-hand");
  });

  it("says why a page was not taken", async () => {
    await asked(new ProblemError(422, "No", "It is behind a pay-wall."));
    expect((await screen.findByRole("alert")).textContent).toContain("pay-wall");
  });
});
