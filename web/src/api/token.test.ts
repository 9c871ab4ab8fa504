import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { client, unwrap } from "./client";
import { keepToken } from "./token";

const session = (name: string | null, csrf_token: string, user = name) => ({
  name,
  user,
  csrf_token,
  version: "1",
});
const OLD = { type: "/problems/old-token", title: "Old", detail: "Load it again.", faults: [] };

/** A server whose token has changed, with somebody signed in. */
function serve(name: string | null, refusal: object = OLD) {
  const seen: { token: string | null; body: string }[] = [];
  vi.stubGlobal(
    "fetch",
    vi.fn(async (asked: Request | URL) => {
      if (asked instanceof URL) return Response.json(session(name, "new"));
      seen.push({ token: asked.headers.get("X-CSRFToken"), body: await asked.text() });
      if (seen.at(-1)?.token !== "new") return Response.json(refusal, { status: 403 });
      return name
        ? Response.json({ name: "Sky" })
        : Response.json({ title: "Not signed in" }, { status: 401 });
    }),
  );
  return seen;
}

const body = { slug: "sky", title: "Sky", tagline: "", language: "en" };
const change = () =>
  unwrap(
    client.POST("/api/blogs", {
      body: body as never,
      baseUrl: "http://desk.example",
      fetch: globalThis.fetch,
    }),
  );

beforeEach(() => keepToken(session("Mira", "old")));
afterEach(() => vi.unstubAllGlobals());

describe("a token that a sign-in in another tab has made old", () => {
  it("is renewed, and the change is sent once more as it was", async () => {
    const seen = serve("Mira");
    expect(await change()).toEqual({ name: "Sky" });
    expect(seen.map(({ token }) => token)).toEqual(["old", "new"]);
    expect(seen[1]?.body).toBe(seen[0]?.body);
    expect(JSON.parse(seen[1]?.body ?? "")).toEqual(body);
    await change();
    expect(seen.map(({ token }) => token)).toEqual(["old", "new", "new"]);
  });

  it("is not renewed for somebody else, who is named", async () => {
    const seen = serve("Ida");
    await expect(change()).rejects.toMatchObject({ status: 403, title: "You are Ida now" });
    await expect(change()).rejects.toMatchObject({ status: 403 });
    expect(seen.map(({ token }) => token)).toEqual(["old", "old"]);
  });

  it("is renewed for a sign-in, whoever was signed in", async () => {
    serve("Ida");
    const body = { name: "mira", password: "x", code: "" };
    const call = client.POST("/api/session", {
      body,
      baseUrl: "http://desk.example",
      fetch: globalThis.fetch,
    });
    expect(await unwrap(call)).toEqual({ name: "Sky" });
  });

  it("is renewed where nobody is signed in, so that one is asked to", async () => {
    serve(null);
    await expect(change()).rejects.toMatchObject({ status: 401 });
  });

  it("is no reason to repeat what a role does not allow", async () => {
    const seen = serve("Mira", {
      type: "about:blank",
      title: "Not allowed",
      detail: "Ask an owner.",
      faults: [],
    });
    await expect(change()).rejects.toMatchObject({ title: "Not allowed" });
    expect(seen).toHaveLength(1);
  });
});
