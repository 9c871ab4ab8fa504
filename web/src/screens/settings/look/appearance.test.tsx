import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { pick } from "@/testing/render";
import { answering, type Call, last, screenAt } from "@/testing/server";
import Appearance from "./Appearance";
import { ANY_POST, kindsToAdd, moved, newPart } from "./parts";

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
  logo: "",
  css: "",
  menu: [],
  foot_menu: [],
  parts: [],
  list_pictures: { ratio: "usual", fit: "crop" },
  post_picture: { ratio: "usual", fit: "crop" },
};
const READY = {
  magazine: [
    { kind: "opener", id: "opener", heading: "", place: "whole", which: ANY_POST },
    { kind: "newest", id: "newest", heading: "", place: "whole" },
  ],
  class: [{ kind: "newest", id: "newest", heading: "", place: "whole" }],
};
const BLOG = { slug: "b", title: "Almanac", version: 3, appearance: LOOK };
const SAVE = "PUT /api/blogs/{blog}/appearance";
const PREVIEW = "POST /api/blogs/{blog}/appearance/preview";

function answers(more: object = {}): Call[] {
  return answering({
    "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "owner" }],
    "GET /api/blogs/{blog}": BLOG,
    [PREVIEW]: { html: "<p>The front</p>", stopped: false },
    "GET /api/ready-fronts": { parts: READY },
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

  it("has boxes for the pictures of lists and posts", async () => {
    const calls = answers();
    const { user } = show();
    await user.click(await screen.findByRole("radio", { name: "Colours and letters" }));
    const ratios = screen.getAllByLabelText("Ratio");
    const fits = screen.getAllByLabelText("Pictures of another ratio");
    await user.selectOptions(ratios[0] as HTMLElement, "Square");
    await user.selectOptions(fits[0] as HTMLElement, "fit in whole");
    await user.selectOptions(ratios[1] as HTMLElement, "Each its own");
    expect((fits[1] as HTMLSelectElement).disabled).toBe(true);
    await waitFor(() =>
      expect(last(calls, PREVIEW).body).toMatchObject({
        appearance: {
          list_pictures: { ratio: "1:1", fit: "fit" },
          post_picture: { ratio: "own", fit: "crop" },
        },
      }),
    );
  });

  it("keeps a choice that is refused, and says why", async () => {
    answers({
      [SAVE]: new ProblemError(422, "No", "It cannot be read.", [
        { path: "appearance.accent", message: "#ffff00 cannot be read on the paper.", hint: "" },
      ]),
    });
    const { user } = show();
    await user.click(await screen.findByRole("radio", { name: "Colours and letters" }));
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
    await user.click(screen.getByRole("radio", { name: "Colours and letters" }));
    await user.click(screen.getByRole("radio", { name: "Tight" }));
    expect(await screen.findByText(/Not shown: #ffff00 cannot be read/)).toBeTruthy();
    expect(frame.getAttribute("srcdoc")).toBe("<p>The front</p>");
  });

  it("begins with the ready parts, and keeps what is changed of them", async () => {
    const calls = answers({ [SAVE]: { ...BLOG, version: 4 } });
    const { user } = show();
    expect(await screen.findByText("those that are ready for this front")).toBeTruthy();
    await user.click(await screen.findByRole("button", { name: "Add a part" }));
    await user.click(await screen.findByRole("menuitem", { name: /^Briefs/ }));
    expect(screen.getByText("of your own")).toBeTruthy();
    await user.type(screen.getByLabelText("Heading of Briefs"), "Shortly");
    await pick(user, "Place of Briefs", "in the narrow column");
    await user.click(screen.getByRole("button", { name: "Remove Opener" }));
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect((last(calls, SAVE).body as { appearance: { parts: unknown } }).appearance.parts).toEqual([
      READY.class[0],
      { kind: "briefs", id: "briefs", heading: "Shortly", place: "narrow", which: ANY_POST, count: 6 },
    ]);
  });

  it("goes back to the ready parts", async () => {
    const own = { ...BLOG, appearance: { ...LOOK, parts: READY.class } };
    const calls = answers({ "GET /api/blogs/{blog}": own, [SAVE]: BLOG });
    const { user } = show();
    await user.click(await screen.findByRole("button", { name: "Back to the ready ones" }));
    expect(await screen.findByRole("region", { name: "Opener" })).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, SAVE).body).toMatchObject({ appearance: { parts: [] } });
  });

  it("has menus, and shows what is wrong at its entry", async () => {
    const calls = answers({
      [SAVE]: new ProblemError(422, "No", "No.", [
        { path: "appearance.menu.0.to", message: "“about” is no address.", hint: "" },
      ]),
    });
    const { user } = show();
    await user.click(await screen.findByRole("radio", { name: "Head and foot" }));
    await user.click(screen.getAllByRole("button", { name: "Add an entry" })[0] as HTMLElement);
    await user.type(screen.getByLabelText("Menu: words of entry 1"), "About");
    await user.type(screen.getByLabelText("Menu: address of entry 1"), "about");
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, SAVE).body).toMatchObject({ appearance: { menu: [{ label: "About", to: "about" }] } });
    expect((await screen.findAllByText(/is no address/)).length).toBeGreaterThan(0);
    await user.click(screen.getByRole("button", { name: "Menu: remove entry 1" }));
    expect(screen.queryByLabelText("Menu: words of entry 1")).toBeNull();
  });

  it("is for owners", async () => {
    answers({ "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "editor" }] });
    show();
    expect(await screen.findByText(/Owners of the blog choose its look/)).toBeTruthy();
    expect(screen.queryByRole("radio")).toBeNull();
  });
});

describe("parts", () => {
  it("have an id of their own, and films by default where they are stills", () => {
    const first = newPart("stills", []);
    expect(first).toMatchObject({ id: "stills", count: 8, which: { post_kind: "film" } });
    expect(newPart("stills", [first]).id).toBe("stills-2");
  });

  it("are moved, and the newest stand on a front once", () => {
    const parts = [newPart("find", []), newPart("newest", []), newPart("words", [])];
    expect(moved(parts, 0, 2).map(({ id }) => id)).toEqual(["newest", "words", "find"]);
    expect(kindsToAdd(parts)).not.toContain("newest");
    expect(kindsToAdd(parts)).toContain("day");
  });
});
