// @vitest-environment happy-dom
import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { answering, type Call, last, screenAt } from "@/testing/server";
import Appearance from "./Appearance";

const LOOK = {
  front: "magazine",
  masthead: "sky",
  letters: "reading",
  density: "roomy",
  corners: "soft",
  accent: "#8a4b12",
  ground: "#27406b",
  marks: true,
  foot: "",
};
const BLOG = { slug: "b", title: "Almanac", version: 3, appearance: LOOK };
const SAVE = "PUT /api/blogs/{blog}/appearance";
const PREVIEW = "POST /api/blogs/{blog}/appearance/preview";

function answers(more: object = {}): Call[] {
  return answering({
    "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "owner" }],
    "GET /api/blogs/{blog}": BLOG,
    [PREVIEW]: { html: "<p>The front</p>", stopped: false },
    ...more,
  });
}

const show = () => screenAt("/desk/b/look", "/desk/:blog/look", <Appearance />);

describe("the look of a blog", () => {
  it("is shown before it is saved, and saved with the version it was begun with", async () => {
    const calls = answers({ [SAVE]: { ...BLOG, version: 4, appearance: { ...LOOK, front: "class" } } });
    const { user } = show();
    await user.click(await screen.findByRole("radio", { name: /Class board/ }));
    await waitFor(() => expect(last(calls, PREVIEW).body).toMatchObject({ appearance: { front: "class" } }));
    expect(calls.some(({ what }) => what === SAVE)).toBe(false);
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, SAVE).body).toEqual({ appearance: { ...LOOK, front: "class" }, version: 3 });
    expect(await screen.findByText("Saved. The blog has this look now.")).toBeTruthy();
  });

  it("is shown by night as well", async () => {
    const calls = answers();
    const { user } = show();
    await user.click(await screen.findByRole("checkbox", { name: "By night" }));
    await waitFor(() => expect(last(calls, PREVIEW).body).toMatchObject({ night: true }));
  });

  it("keeps a choice that is refused, and says why", async () => {
    answers({
      [SAVE]: new ProblemError(422, "No", "It cannot be read.", [
        { path: "appearance.accent", message: "#ffff00 cannot be read on the paper.", hint: "" },
      ]),
    });
    const { user } = show();
    await user.click(await screen.findByRole("radio", { name: "Sharp" }));
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect((await screen.findAllByText(/cannot be read/)).length).toBeGreaterThan(0);
    expect((screen.getByRole("radio", { name: "Sharp" }) as HTMLInputElement).checked).toBe(true);
  });

  it("leaves the front as it was where a look cannot be shown", async () => {
    let pale = false;
    answers({
      [PREVIEW]: () => {
        if (!pale) return { html: "<p>The front</p>", stopped: false };
        return new ProblemError(422, "No", "No.", [
          { path: "appearance.accent", message: "#ffff00 cannot be read on the paper.", hint: "" },
        ]);
      },
    });
    const { user } = show();
    const frame = await screen.findByTitle("The front in this look");
    await waitFor(() => expect(frame.getAttribute("srcdoc")).toBe("<p>The front</p>"));
    pale = true;
    await user.click(screen.getByRole("radio", { name: "Tight" }));
    expect(await screen.findByText(/Not shown: #ffff00 cannot be read/)).toBeTruthy();
    expect(frame.getAttribute("srcdoc")).toBe("<p>The front</p>");
  });

  it("is for owners", async () => {
    answers({ "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "editor" }] });
    show();
    expect(await screen.findByText(/Owners of the blog choose its look/)).toBeTruthy();
    expect(screen.queryByRole("radio")).toBeNull();
  });
});
