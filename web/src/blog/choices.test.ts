import { beforeEach, describe, expect, it, vi } from "vitest";
import { keptColours, offerColours, offerSharing, showColours } from "./choices";

const COLOURS = '<p data-colours data-device="as the device" data-day="by day" data-night="by night"></p>';
const PASSING =
  '<h1>A comet</h1><p data-passing data-share="Share" data-copy="Copy the address" data-copied="Copied"></p>';

function page(markup: string, address = "https://almanac.example/a-comet/") {
  document.head.innerHTML = address && `<meta property="og:url" content="${address}">`;
  document.body.innerHTML = markup;
}

function has(part: object) {
  for (const [name, value] of Object.entries(part)) {
    Object.defineProperty(navigator, name, { value, configurable: true });
  }
}

const pressed = () => document.querySelector("button");

beforeEach(() => {
  showColours("device");
  Reflect.deleteProperty(navigator, "share");
  return () => {
    document.head.innerHTML = "";
    document.body.innerHTML = "";
    showColours("device");
  };
});

describe("the colours of a page", () => {
  it("go from the device's to day, to night and back, and are kept", () => {
    page(COLOURS);
    offerColours();
    expect(pressed()?.textContent).toBe("as the device");
    pressed()?.click();
    expect([pressed()?.textContent, document.documentElement.className, keptColours()]).toEqual([
      "by day",
      "by-day",
      "day",
    ]);
    pressed()?.click();
    expect([pressed()?.textContent, document.documentElement.className, keptColours()]).toEqual([
      "by night",
      "night",
      "night",
    ]);
    pressed()?.click();
    expect([pressed()?.textContent, document.documentElement.className, keptColours()]).toEqual([
      "as the device",
      "",
      "device",
    ]);
  });

  it("begin as they were chosen before", () => {
    localStorage.setItem("colours", "night");
    page(COLOURS);
    showColours(keptColours());
    offerColours();
    expect([pressed()?.textContent, document.documentElement.className]).toEqual(["by night", "night"]);
    localStorage.setItem("colours", "nonsense");
    expect(keptColours()).toBe("device");
  });

  it("are not offered where a page has no place for it", () => {
    page("<p></p>");
    offerColours();
    expect(pressed()).toBeNull();
  });
});

describe("passing a post on", () => {
  it("opens the dialog of the browser with the address that is meant to be shared", async () => {
    const share = vi.fn(() => Promise.reject(new Error("closed")));
    has({ share });
    page(PASSING);
    offerSharing();
    expect(pressed()?.textContent).toBe("Share");
    pressed()?.click();
    expect(share).toHaveBeenCalledWith({ title: "A comet", url: "https://almanac.example/a-comet/" });
  });

  it("copies the address where the browser has no dialog, and says so", async () => {
    const writeText = vi.fn(() => Promise.resolve());
    has({ clipboard: { writeText } });
    page(PASSING);
    offerSharing();
    pressed()?.click();
    await vi.waitFor(() => expect(pressed()?.textContent).toBe("Copied"));
    expect(writeText).toHaveBeenCalledWith("https://almanac.example/a-comet/");
  });

  it("is not offered on other pages", () => {
    page(PASSING, "");
    offerSharing();
    expect(pressed()).toBeNull();
  });
});
