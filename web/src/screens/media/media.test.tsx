import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import type { Picture, Recording } from "@/api/media";
import { answering, last, screenAt } from "@/testing/server";
import Pictures from "./Pictures";
import Recordings from "./Recordings";

const LIST = "GET /api/blogs/{blog}/pictures";
const COPIES = "GET /api/blogs/{blog}/picture-copies";
const ONE = "/api/blogs/{blog}/pictures/{number}";
const MOON: Picture = {
  id: 4,
  name: "Half moon",
  alt: "Half a moon over a ridge",
  credit: "",
  labels: ["sky"],
  url: "/media/pictures/1/aa/moon/1280.jpg",
  small: "/media/pictures/1/aa/moon/640.webp",
  width: 1600,
  height: 900,
  size: 400_000,
  focus_x: 0.5,
  focus_y: 0.5,
  uploaded: true,
  shown_by: 0,
  made_at: "2026-11-24T12:00:00Z",
};
const FINE = { states: { waiting: 0, kept: 3, failed: 0, given_up: 0 }, rows: [], total: 0 };

function show(answers: Record<string, unknown> = {}) {
  const calls = answering({
    [LIST]: { rows: [MOON], total: 1, labels: ["night", "sky"] },
    [COPIES]: FINE,
    [`GET ${ONE}/posts`]: [{ id: 9, title: "A fireball" }],
    ...answers,
  });
  return { calls, ...screenAt("/desk/b/pictures", "/desk/:blog/pictures", <Pictures />) };
}

describe("the pictures of the blog", () => {
  it("are described, and their focus is moved by the arrow keys", async () => {
    const { user, calls } = show({ [`PUT ${ONE}`]: MOON });
    await user.click(await screen.findByRole("button", { name: /Half moon/ }));
    const dialog = within(await screen.findByRole("dialog"));
    expect(await dialog.findByRole("link", { name: "A fireball" })).toBeTruthy();
    fireEvent.keyDown(dialog.getByRole("button", { name: /^Focus at/ }), { key: "ArrowLeft" });
    await user.type(dialog.getByLabelText(/^Credit/), "M. Vale");
    await user.clear(dialog.getByLabelText(/^Labels/));
    await user.type(dialog.getByLabelText(/^Labels/), "moon, , night");
    await user.click(dialog.getByRole("button", { name: "Save" }));
    expect(last(calls, `PUT ${ONE}`).body).toMatchObject({
      credit: "M. Vale",
      labels: ["moon", "night"],
      focus_x: 0.45,
      focus_y: 0.5,
    });
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("are added several at once, and one that cannot be taken is named", async () => {
    let number = 0;
    const { user, calls } = show({
      "POST /api/blogs/{blog}/pictures": () => {
        number += 1;
        return number === 2 ? new ProblemError(422, "No", "“b.svg” is a drawing.") : MOON;
      },
    });
    const files = ["a.png", "b.png"].map((name) => new File(["x"], name, { type: "image/png" }));
    await user.upload(await screen.findByLabelText("Pictures to add"), files);
    expect(await screen.findByText("“b.svg” is a drawing.")).toBeTruthy();
    expect(screen.getByText("1 picture added.")).toBeTruthy();
    expect(calls.filter(({ what }) => what === "POST /api/blogs/{blog}/pictures")).toHaveLength(2);
  });

  it("are removed only where nothing shows them", async () => {
    const { user, calls } = show({ [`DELETE ${ONE}`]: null });
    await user.click(await screen.findByRole("button", { name: /Half moon/ }));
    await user.click(await screen.findByRole("button", { name: "Remove" }));
    await user.click(within(await screen.findByRole("alertdialog")).getByRole("button", { name: "Remove" }));
    expect(last(calls, `DELETE ${ONE}`).path).toMatchObject({ number: 4 });
  });

  it("that could not be copied are told with their reason, and tried again", async () => {
    const row = {
      id: 1,
      url: "https://club.example/x.svg",
      state: "given_up",
      fault: "svg",
      why: "",
      tries: 5,
      next_at: null,
    };
    const trouble = { states: { waiting: 0, given_up: 1 }, rows: [row], total: 1 };
    const { user, calls } = show({
      [COPIES]: trouble,
      "POST /api/blogs/{blog}/picture-copies/retry": FINE,
    });
    await user.click(await screen.findByRole("button", { name: "Which ones" }));
    expect(screen.getByText(/it is a drawing \(SVG\), which can hold scripts/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Try them again now" }));
    expect(last(calls, "POST /api/blogs/{blog}/picture-copies/retry")).toBeTruthy();
  });

  it("are only looked at by a viewer", async () => {
    const { user } = show({ "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "viewer" }] });
    await user.click(await screen.findByRole("button", { name: /Half moon/ }));
    await screen.findByRole("dialog");
    expect(screen.queryByRole("button", { name: "Save" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Add pictures" })).toBeNull();
  });
});

const FILM: Recording = {
  id: 2,
  url: "https://club.example/film.mp4",
  address: "",
  mime: "",
  state: "waiting",
  done: 2_000_000,
  size: 8_000_000,
  fault: "",
  why: "",
  next_at: null,
  shown_by: 1,
  asked_at: "2026-11-24T12:00:00Z",
};

describe("films and sound", () => {
  const RECORDINGS = "GET /api/blogs/{blog}/recordings";
  const open = (rows: Recording[], answers: Record<string, unknown> = {}) => {
    const calls = answering({ [RECORDINGS]: { rows, total: rows.length }, ...answers });
    return { calls, ...screenAt("/desk/b/recordings", "/desk/:blog/recordings", <Recordings />) };
  };

  it("show how far a copy is, and it can be stopped", async () => {
    const stop = "POST /api/blogs/{blog}/recordings/{number}/stop";
    const { user, calls } = open([FILM], { [stop]: { ...FILM, state: "given_up" } });
    expect((await screen.findByRole("progressbar")).getAttribute("value")).toBe("2000000");
    expect(screen.getByText(/MB of .* MB copied · in 1 post/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Stop" }));
    expect(last(calls, stop).path).toMatchObject({ number: 2 });
  });

  it("that failed say why, and are tried again", async () => {
    const retry = "POST /api/blogs/{blog}/recordings/{number}/retry";
    const failed: Recording = { ...FILM, state: "given_up", fault: "no_recording" };
    const { user, calls } = open([failed], { [retry]: FILM });
    expect(await screen.findByText(/no film or sound in a format that is taken/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Try again now" }));
    expect(last(calls, retry)).toBeTruthy();
  });

  it("say what to do where there are none", async () => {
    open([]);
    expect(await screen.findByText("Nothing is copied")).toBeTruthy();
  });
});
