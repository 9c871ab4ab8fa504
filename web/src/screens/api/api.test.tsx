import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { answering, screenAt } from "@/testing/server";
import ApiPage from "./ApiPage";

const SCHEMA = {
  info: { title: "Glyptarch", version: "1" },
  paths: {
    "/api/blogs": { get: { operationId: "listBlogs", description: "Give the blogs.", tags: ["blogs"] } },
    "/api/blogs/{blog}/runs": {
      post: { operationId: "beginRun", description: "Begin a run.", tags: ["runs"] },
    },
  },
};

describe("the page of the API", () => {
  it("names every operation, and finds some", async () => {
    answering({});
    const fetched = vi.spyOn(globalThis, "fetch");
    fetched.mockImplementation(async () => new Response(JSON.stringify(SCHEMA)));
    const { user } = screenAt("/desk/b/api", "/desk/:blog/api", <ApiPage />);
    expect(await screen.findByText("Begin a run.")).toBeTruthy();
    expect(screen.getByText("POST")).toBeTruthy();
    await user.type(screen.getByRole("searchbox"), "give the");
    expect(await screen.findByText("Give the blogs.")).toBeTruthy();
    await waitFor(() => expect(screen.queryByText("Begin a run.")).toBeNull());
  });
});
