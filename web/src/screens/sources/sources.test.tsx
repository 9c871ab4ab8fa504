import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Source } from "@/api/sources";
import { pick } from "@/testing/render";
import { answering, last, screenAt } from "@/testing/server";
import Sources from "./Sources";
import { CLUB, LIST, USES } from "./samples";

describe("the list of sources", () => {
  const show = (rows: Source[]) => {
    const calls = answering({
      [LIST]: { rows, total: rows.length, labels: ["Sky"] },
      [USES]: { club: [{ slug: "sky", name: "Sky" }] },
    });
    return { calls, ...screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />) };
  };

  it("says how each reads and who uses it", async () => {
    const failing = { health: "failing", health_data: { failures: 2 }, read_detail: "404 there" } as const;
    show([CLUB, { ...CLUB, key: "wire", title: "Wire", ...failing }]);
    const [club, wire] = await screen.findAllByRole("listitem");
    expect(club?.textContent).toContain("40 items");
    expect(await within(club as HTMLElement).findByText("used by Sky")).toBeTruthy();
    expect(wire?.textContent).toContain("404 there");
    expect(wire?.textContent).toContain("used by no campaign");
  });

  it("asks the server when a name is typed, after a pause", async () => {
    const { user, calls } = show([CLUB]);
    await user.type(await screen.findByLabelText("Find a source"), "clu");
    await waitFor(() => expect(last(calls, LIST).query).toMatchObject({ search: "clu", offset: 0 }));
  });

  it("is narrowed to those of one health, and put in order by it", async () => {
    const { user, calls } = show([CLUB]);
    await screen.findByText("Club");
    await pick(user, "Health", "quiet");
    await pick(user, "Order", "those that need you first");
    await waitFor(() => expect(last(calls, LIST).query).toMatchObject({ health: "quiet", sort: "health" }));
  });

  it("leads to adding the first", async () => {
    show([]);
    expect(await screen.findByText("No source yet")).toBeTruthy();
    expect(screen.getAllByRole("link", { name: "Add feeds" })).toHaveLength(2);
  });
});

describe("several sources at once", () => {
  const TOGETHER = "POST /api/blogs/{blog}/sources-together";

  it("are labelled, paused and exported", async () => {
    const calls = answering({
      [LIST]: { rows: [CLUB, { ...CLUB, key: "wire", title: "Wire" }], total: 2, labels: ["Sky"] },
      [USES]: {},
      [TOGETHER]: { changed: 2 },
    });
    const { user } = screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />);
    await user.click(await screen.findByRole("checkbox", { name: "Pick Club" }));
    await user.click(screen.getByRole("checkbox", { name: "Pick Wire" }));
    expect(screen.getByText("2 sources picked")).toBeTruthy();
    await user.type(screen.getByLabelText("Label", { selector: "input" }), "Near");
    await user.click(screen.getByRole("button", { name: "Add label" }));
    expect(last(calls, TOGETHER).body).toEqual({ keys: ["club", "wire"], change: "label", label: "Near" });
    expect(await screen.findByText("2 sources labelled.")).toBeTruthy();
    const exported = screen.getAllByRole("link", { name: "As OPML" }).map((one) => one.getAttribute("href"));
    expect(exported).toContain("/api/blogs/b/opml?chosen=club%2Cwire");
  });

  it("are asked in the same way, and keep what is not set", async () => {
    const access = "POST /api/blogs/{blog}/sources-together/access";
    const calls = answering({
      [LIST]: { rows: [CLUB], total: 1, labels: [] },
      [USES]: {},
      [access]: { changed: 1 },
    });
    const { user } = screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />);
    await user.click(await screen.findByRole("checkbox", { name: "Pick Club" }));
    await user.click(screen.getByRole("button", { name: "How they are asked" }));
    const send = screen.getByRole("button", { name: "Change 1 source" });
    expect(send).toHaveProperty("disabled", true);
    await pick(user, "Tries in one reading:", "set");
    await pick(user, "Pause between two requests:", "set");
    await pick(user, "Pause between two requests:", "as each has it");
    await user.click(send);
    expect(last(calls, access).body).toEqual({
      keys: ["club"],
      tries: 3,
      pause_ms: null,
      patience_s: null,
      any_certificate: null,
    });
    expect(await screen.findByText("1 source will be asked so.")).toBeTruthy();
  });

  it("get the same rights, and keep the lines that they have", async () => {
    const rights = "POST /api/blogs/{blog}/sources-together/rights";
    const calls = answering({
      [LIST]: { rows: [CLUB, { ...CLUB, key: "wire", title: "Wire" }], total: 2, labels: ["Sky"] },
      [USES]: {},
      [rights]: { changed: 1 },
    });
    const { user } = screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />);
    await user.click(await screen.findByRole("checkbox", { name: "Pick Club" }));
    await user.click(screen.getByRole("checkbox", { name: "Pick Wire" }));
    await user.click(screen.getByRole("button", { name: "Rights" }));
    await pick(user, "Right", "a link only");
    await pick(user, "Full texts", "are fetched from pages");
    await user.click(screen.getByRole("button", { name: "Change 2 sources" }));
    expect(last(calls, rights).body).toEqual({
      keys: ["club", "wire"],
      right: "link",
      right_words: 55,
      attribution: null,
      full_text_words: 30,
    });
    expect(await screen.findByText("The rights of 1 source changed.")).toBeTruthy();
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("are added to a campaign that is searched for", async () => {
    const take = "POST /api/blogs/{blog}/campaigns/{slug}/sources";
    const calls = answering({
      [LIST]: { rows: [CLUB], total: 1, labels: [] },
      [USES]: {},
      "GET /api/blogs/{blog}/campaign-overview": { rows: [{ slug: "sky", name: "Sky notes" }], total: 1 },
      "GET /api/blogs/{blog}/campaigns/{slug}": { slug: "sky", name: "Sky notes" },
      [take]: { added: 1 },
    });
    const { user } = screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />);
    await user.click(await screen.findByRole("checkbox", { name: "Pick Club" }));
    await user.click(screen.getByRole("button", { name: "Add to a campaign" }));
    const add = screen.getByRole<HTMLButtonElement>("button", { name: "Add" });
    expect(add.disabled).toBe(true);
    await user.click(screen.getByRole("button", { name: "Campaign: choose a campaign" }));
    await user.click(await screen.findByText("Sky notes"));
    await user.click(add);
    expect(last(calls, take)).toMatchObject({ path: { blog: "b", slug: "sky" }, body: { keys: ["club"] } });
    expect(await screen.findByText("1 source added to the campaign.")).toBeTruthy();
  });

  it("can be all that a list finds, on every page", async () => {
    const found = "POST /api/blogs/{blog}/found-sources";
    const calls = answering({
      [LIST]: { rows: [CLUB], total: 235, labels: ["Sky"] },
      [USES]: {},
      [TOGETHER]: { changed: 235 },
      [found]: ["club", "far"],
    });
    const { user, router } = screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />);
    await user.click(await screen.findByRole("checkbox", { name: "Pick Club" }));
    await user.click(screen.getByRole("button", { name: "Pick all 235 found" }));
    expect(screen.getByText("235 sources picked")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Pause" }));
    expect(last(calls, TOGETHER).body).toEqual({
      keys: [],
      found: { search: "", health: null, label: "" },
      change: "pause",
      label: "",
    });
    await user.click(screen.getByRole("button", { name: "New campaign" }));
    await waitFor(() => expect(router.state.location.state).toEqual({ sources: ["club", "far"] }));
  });

  it("are those of before no longer once the list is narrowed", async () => {
    answering({ [LIST]: { rows: [CLUB], total: 235, labels: ["Sky"] }, [USES]: {} });
    const { user } = screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />);
    await user.click(await screen.findByRole("checkbox", { name: "Pick Club" }));
    await user.click(screen.getByRole("button", { name: "Pick all 235 found" }));
    await user.type(screen.getByLabelText("Find a source"), "w");
    await waitFor(() => expect(screen.queryByText(/sources picked/)).toBeNull());
  });

  it("say what is special about them", async () => {
    const odd = { ...CLUB, labels: ["Near"], paused: true, any_certificate: true };
    answering({ [LIST]: { rows: [odd], total: 1, labels: ["Near"] }, [USES]: {} });
    screenAt("/desk/b/sources", "/desk/:blog/sources", <Sources />);
    const row = within(await screen.findByRole("list", { name: "Sources" }));
    for (const text of ["Near", "Paused", "Any certificate"]) expect(row.getByText(text)).toBeTruthy();
  });
});
