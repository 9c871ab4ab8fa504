import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { answering, type Call, last, screenAt } from "@/testing/server";
import Audit from "./Audit";
import BlogSettings from "./BlogSettings";
import { NewBlogDialog } from "./NewBlogDialog";
import People from "./People";

const PEOPLE = "GET /api/blogs/{blog}/people";
const MIRA = {
  id: 1,
  name: "Mira",
  user_name: "mira",
  email: "mira@club.example",
  role: "owner",
  you: true,
  second_factor: true,
  last_seen_at: null,
};
const EDDA = { ...MIRA, id: 2, name: "Edda", user_name: "edda", email: "", role: "editor", you: false };
const LIST = { members: [EDDA, MIRA], invitations: [], mail_is_set_up: false };
const VIEWER = { "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "viewer" }] };

describe("people", () => {
  const show = () => screenAt("/desk/b/people", "/desk/:blog/people", <People />);

  it("get another role from an owner", async () => {
    const calls = answering({
      [PEOPLE]: LIST,
      "PATCH /api/blogs/{blog}/people/{number}": { ...EDDA, role: "reviewer" },
    });
    const { user } = show();
    (await screen.findByRole("combobox", { name: "Role of Edda" })).focus();
    await user.keyboard("{Enter}");
    await user.click(await screen.findByRole("option", { name: "Reviewer" }));
    const call = last(calls, "PATCH /api/blogs/{blog}/people/{number}");
    expect([call.path.number, call.body]).toEqual([2, { role: "reviewer" }]);
    expect(await screen.findByText("Edda is reviewer now.")).toBeTruthy();
  });

  it("say why the last owner cannot leave", async () => {
    answering({
      [PEOPLE]: LIST,
      "DELETE /api/blogs/{blog}/people/{number}": new ProblemError(409, "No", "A blog needs an owner."),
    });
    const { user } = show();
    await user.click(await screen.findByRole("button", { name: "Leave" }));
    await user.click(within(await screen.findByRole("alertdialog")).getByRole("button", { name: "Leave" }));
    expect(await screen.findByText("A blog needs an owner.")).toBeTruthy();
  });

  it("are invited with a link that can be handed on where there is no mail", async () => {
    const invitation = { id: 7, email: "ida@club.example", role: "viewer", by: "Mira" };
    const calls = answering({
      [PEOPLE]: LIST,
      "POST /api/blogs/{blog}/invitations": { invitation, link: "https://desk.example/join/k1" },
    });
    const { user } = show();
    await user.click(await screen.findByRole("button", { name: "Invite somebody" }));
    await user.type(screen.getByLabelText(/^Mail address/), "ida@club.example");
    await user.click(screen.getByLabelText(/^Viewer/));
    await user.click(screen.getByRole("button", { name: "Invite" }));
    expect(await screen.findByDisplayValue("https://desk.example/join/k1")).toBeTruthy();
    expect(screen.getByText(/Mail is not set up here/)).toBeTruthy();
    expect(last(calls, "POST /api/blogs/{blog}/invitations").body).toEqual({
      email: "ida@club.example",
      role: "viewer",
    });
  });

  it("are only shown to who is no owner", async () => {
    answering({ ...VIEWER, [PEOPLE]: { ...LIST, members: [{ ...MIRA, you: false }] } });
    show();
    expect(await screen.findByText("sees everything and tries rules in proofs")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Invite somebody" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Remove" })).toBeNull();
  });
});

describe("the settings of a blog", () => {
  const BLOG = {
    slug: "b",
    title: "Almanac",
    tagline: "",
    language: "en",
    time_zone: "UTC",
    player_hosts: [],
    full_feeds: false,
    hub: "",
    version: 4,
  };
  const ANSWERS = {
    "GET /api/blogs/{blog}": BLOG,
    "GET /api/time-zones": ["Asia/Tokyo", "UTC"],
    "PATCH /api/blogs/{blog}": (call: Call) => ({ ...BLOG, ...(call.body as object), version: 5 }),
    "PUT /api/blogs/{blog}/time-zone": null,
    "DELETE /api/blogs/{blog}": null,
  };
  const show = () => screenAt("/desk/b/settings", "/desk/:blog/settings", <BlogSettings />);

  it("are saved, the time zone only where it has changed", async () => {
    const calls = answering(ANSWERS);
    const { user } = show();
    await user.type(await screen.findByLabelText(/^Tagline/), "At night");
    await user.click(screen.getByRole("button", { name: "Save" }));
    await screen.findByText("Saved.");
    expect(last(calls, "PATCH /api/blogs/{blog}").body).toEqual({
      title: "Almanac",
      tagline: "At night",
      language: "en",
      player_hosts: [],
      full_feeds: false,
      hub: "",
      version: 4,
    });
    expect(calls.some(({ what }) => what.startsWith("PUT"))).toBe(false);
  });

  it("name the language that does not hold", async () => {
    const fault = { path: "language", message: "“xx” is no language.", hint: "" };
    answering({
      ...ANSWERS,
      "PATCH /api/blogs/{blog}": new ProblemError(422, "No", "“xx” is no language.", [fault]),
    });
    const { user } = show();
    await user.type(await screen.findByLabelText(/^Language/), "x");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(await screen.findAllByText("“xx” is no language.")).toHaveLength(1);
  });

  it("remove the blog only when its name was typed", async () => {
    const calls = answering(ANSWERS);
    const { user, address } = show();
    await user.click(await screen.findByRole("button", { name: "Remove Almanac" }));
    const remove = screen.getByRole("button", { name: "Remove the blog" });
    expect(remove.hasAttribute("disabled")).toBe(true);
    await user.type(screen.getByLabelText(/^Type the name/), "Almanac");
    await user.click(remove);
    await waitFor(() => expect(address()).toBe("/"));
    expect(last(calls, "DELETE /api/blogs/{blog}").path).toEqual({ blog: "b" });
  });

  it("are for owners alone", async () => {
    answering({ ...ANSWERS, ...VIEWER });
    show();
    expect(await screen.findByText("For owners")).toBeTruthy();
  });
});

describe("a new blog", () => {
  it("gets an address from its name", async () => {
    const calls = answering({
      "POST /api/blogs": { slug: "cafe-etoile", title: "Café Étoile", role: "owner" },
    });
    const { user, address } = screenAt("/desk/b/x", "/desk/:blog/x", <NewBlogDialog onClose={() => {}} />);
    await user.type(screen.getByLabelText(/^Name/), "Café Étoile");
    await user.click(screen.getByRole("button", { name: "Make the blog" }));
    await waitFor(() => expect(address()).toBe("/desk/cafe-etoile/today"));
    expect(last(calls, "POST /api/blogs").body).toMatchObject({ slug: "cafe-etoile", title: "Café Étoile" });
  });
});

describe("the audit list", () => {
  const ENTRY = {
    id: 1,
    at: "2026-11-24T12:00:00Z",
    name: "Edda",
    action: "campaign.schedule",
    subject: "Sky",
    before: { paused: false, schedule: {} },
    after: { paused: true, schedule: {} },
  };
  const show = () => screenAt("/desk/b/audit", "/desk/:blog/audit", <Audit />);

  it("says who did what, and only what has changed", async () => {
    answering({ "GET /api/blogs/{blog}/audit": { rows: [ENTRY], total: 1 } });
    show();
    const row = (await screen.findByText("Edda")).closest("li");
    expect(row?.textContent).toContain("Edda set the schedule of Sky");
    expect(row?.textContent).toContain("paused: no → yes");
    expect(row?.textContent).not.toContain("schedule:");
  });

  it("is searched", async () => {
    const calls = answering({ "GET /api/blogs/{blog}/audit": { rows: [], total: 0 } });
    const { user } = show();
    expect(await screen.findByText("Nothing yet")).toBeTruthy();
    await user.type(screen.getByRole("searchbox"), "sky");
    expect(await screen.findByText("Nothing found")).toBeTruthy();
    await waitFor(() => expect(last(calls, "GET /api/blogs/{blog}/audit").query.search).toBe("sky"));
  });
});
