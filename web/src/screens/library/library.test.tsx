import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { pick } from "@/testing/render";
import { answering, last, screenAt } from "@/testing/server";
import Names from "./Names";

const LIST = "GET /api/blogs/{blog}/names/{kind}";
const ONE = "/api/blogs/{blog}/names/{kind}/{number}";
const MOON = { id: 1, name: "Moon", slug: "moon", posts: 0, parent: null };
const PLANETS = { id: 2, name: "Planets", slug: "planets", posts: 12, parent: null };

function show(answers: Record<string, unknown> = {}, kind = "category") {
  const calls = answering({ [LIST]: { rows: [MOON, PLANETS], total: 2 }, ...answers });
  return { calls, ...screenAt(`/desk/b/names/${kind}`, "/desk/:blog/names/:kind", <Names />) };
}

describe("categories", () => {
  it("are renamed where they stand", async () => {
    const { user, calls } = show({ [`PATCH ${ONE}`]: { ...PLANETS, name: "Worlds" } });
    await user.click(await screen.findByRole("button", { name: "Rename Planets" }));
    await user.clear(screen.getByLabelText("Name of Planets"));
    await user.type(screen.getByLabelText("Name of Planets"), "Worlds{Enter}");
    expect(last(calls, `PATCH ${ONE}`).body).toEqual({ name: "Worlds" });
  });

  it("stand by name or by their posts, as the server orders them", async () => {
    const { user, calls } = show();
    await screen.findByText("Planets");
    expect(last(calls, LIST).query).toMatchObject({ sort: "name" });
    await pick(user, "Order", "most posts first");
    await waitFor(() => expect(last(calls, LIST).query).toMatchObject({ sort: "posts", offset: 0 }));
  });

  it("say why a name cannot be", async () => {
    const { user } = show({ [`PATCH ${ONE}`]: new ProblemError(409, "No", "There is one already.") });
    await user.click(await screen.findByRole("button", { name: "Rename Planets" }));
    await user.type(screen.getByLabelText("Name of Planets"), "x{Enter}");
    expect(await screen.findByText("There is one already.")).toBeTruthy();
  });

  it("are merged after it was said what happens", async () => {
    const { user, calls } = show({ [`POST ${ONE}/merge`]: { ...MOON, posts: 12 } });
    const row = (await screen.findByText("Planets")).closest("li") as HTMLElement;
    await user.click(within(row).getByRole("button", { name: "Merge…" }));
    const dialog = within(await screen.findByRole("dialog"));
    expect(dialog.getByRole("button", { name: "Merge" }).hasAttribute("disabled")).toBe(true);
    await user.selectOptions(dialog.getByLabelText("The one that stays"), "1");
    expect(dialog.getByText(/12 posts of “Planets” will have “Moon” instead/)).toBeTruthy();
    await user.click(dialog.getByRole("button", { name: "Merge" }));
    expect(last(calls, `POST ${ONE}/merge`).body).toEqual({ into: 1 });
    await waitFor(() => expect(screen.getByText("“Planets” is merged into “Moon”: 12 posts.")).toBeTruthy());
  });

  it("are removed only where no post has them", async () => {
    show();
    const row = (await screen.findByText("Planets")).closest("li") as HTMLElement;
    expect(within(row).getByRole("button", { name: "Remove" }).hasAttribute("disabled")).toBe(true);
  });

  it("are added, and tags have no place in a tree", async () => {
    const { user, calls } = show({ "POST /api/blogs/{blog}/names/{kind}": MOON }, "tag");
    await user.type(await screen.findByLabelText("New tag"), "Dew{Enter}");
    const call = last(calls, "POST /api/blogs/{blog}/names/{kind}");
    expect([call.path.kind, call.body]).toEqual(["tag", { name: "Dew" }]);
    expect(screen.queryByText("on top")).toBeNull();
  });

  it("are only shown to a viewer", async () => {
    show({ "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "viewer" }] });
    expect(await screen.findByText("Planets")).toBeTruthy();
    expect(screen.queryByLabelText("New category")).toBeNull();
    expect(screen.queryByRole("button", { name: "Rename Planets" })).toBeNull();
  });
});
