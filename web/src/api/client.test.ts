import { describe, expect, it } from "vitest";
import { faultAt, ProblemError, unwrap } from "./client";

const answer = (status: number, body: unknown) =>
  Promise.resolve({
    ...(status < 300 ? { data: body } : { error: body }),
    response: new Response(null, { status }),
  });

async function thrown(call: Promise<unknown>): Promise<ProblemError> {
  const error = await call.catch((caught: unknown) => caught);
  if (!(error instanceof ProblemError)) throw new Error("no problem was thrown");
  return error;
}

describe("an answer of the server", () => {
  it("is given as it is when it went well, an empty one too", async () => {
    expect(await unwrap(answer(200, { name: "Sky" }))).toEqual({ name: "Sky" });
    expect(await unwrap(answer(204, undefined))).toBeUndefined();
  });

  it("is thrown with what happened and what to do", async () => {
    const problem = { title: "It has changed meanwhile", detail: "Look at revision 4 first.", faults: [] };
    const error = await thrown(unwrap(answer(409, problem)));
    expect([error.status, error.title, error.message]).toEqual([409, problem.title, problem.detail]);
  });

  it("has words of ours where the server gave none", async () => {
    for (const body of [undefined, "<html>", { detail: 5 }, null]) {
      const error = await thrown(unwrap(answer(502, body)));
      expect([error.title, error.message]).toEqual([
        "The server answered with 502",
        "The server gave no reason. Try again.",
      ]);
    }
  });

  it("that does not come says that the server does not answer", async () => {
    const error = await thrown(unwrap(Promise.reject(new TypeError("fetch failed"))));
    expect([error.status, error.title]).toEqual([0, "The server does not answer"]);
  });
});

describe("a fault of a document", () => {
  const error = new ProblemError(422, "No", "no", [
    { path: "sift.rules.0.query", message: "not closed", hint: "" },
    { path: "shape.steps.1.selector", message: "no selector", hint: "" },
  ]);

  it("is found by the end of its path", () => {
    expect(faultAt(error, "rules.0.query")).toBe("not closed");
    expect(faultAt(error, "sift.rules.0")).toBeUndefined();
  });

  it("is found below a path where that is asked for", () => {
    expect(faultAt(error, "shape.steps.1", true)).toBe("no selector");
    expect(faultAt(error, "shape.steps.1.selector", true)).toBe("no selector");
    expect(faultAt(error, "shape.steps", false)).toBeUndefined();
    expect(faultAt(error, "shape.steps.0", true)).toBeUndefined();
  });

  it("is none of any other error", () => {
    expect(faultAt(new Error("no"), "query.query")).toBeUndefined();
    expect(faultAt(null, "query.query")).toBeUndefined();
  });
});
