import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { answering, last, screenAt } from "@/testing/server";
import BlogFile from "./BlogFile";

const COMPARE = "POST /api/blogs/{blog}/blog-file/comparison";
const BRING = "POST /api/blogs/{blog}/blog-file";
const part = (key: string, state: string, more: object = {}) => ({
  ...{ kind: "word_list", key, name: key.toUpperCase(), state, fault: "", before: null, after: null },
  ...more,
});
const PARTS = [
  part("storms", "changed", { before: { words: ["gale"] }, after: { words: ["gale", "hail"] } }),
  part("stars", "new"),
  part("sky", "faulty", { kind: "campaign", fault: "It names sources that nobody has." }),
  part("moon", "same"),
  part("mine", "stays"),
];

describe("the file of a blog", () => {
  const show = (answers: Record<string, unknown> = {}) => {
    const calls = answering({
      [COMPARE]: { stamp: "s1", parts: PARTS },
      [BRING]: { brought_in: 1 },
      ...answers,
    });
    return { calls, ...screenAt("/desk/b/blog-file", "/desk/:blog/blog-file", <BlogFile />) };
  };
  const file = new File(["format: 1"], "vale.yaml", { type: "application/yaml" });
  const region = () => screen.findByRole("region", { name: "What vale.yaml would change" });

  it("is taken out at one click", async () => {
    show();
    const link = await screen.findByRole("link", { name: "b.yaml" });
    expect(link.getAttribute("href")).toBe("/api/blogs/b/blog-file");
  });

  it("shows each difference before anything comes, and brings in what was chosen", async () => {
    const { user, calls } = show();
    await user.upload(await screen.findByLabelText("Blog file as YAML"), file);
    const compared = within(await region());
    expect(last(calls, COMPARE).body).toEqual({ yaml: "format: 1" });
    expect(compared.getByText("It names sources that nobody has.")).toBeTruthy();
    await user.click(compared.getByText("1 difference"));
    expect(compared.getByRole("list", { name: "Changed" }).textContent).toContain("hail");
    await user.click(compared.getByRole("checkbox", { name: "STARS" }));
    await user.click(compared.getByRole("button", { name: "Bring in 1 part" }));
    const question = within(await screen.findByRole("alertdialog"));
    expect(question.getByText(/1 part of this blog is replaced/)).toBeTruthy();
    await user.click(question.getByRole("button", { name: "Bring them in" }));
    await waitFor(() =>
      expect(last(calls, BRING).body).toEqual({
        yaml: "format: 1",
        stamp: "s1",
        chosen: [{ kind: "word_list", key: "storms" }],
      }),
    );
    expect(await screen.findByText("1 part brought in from vale.yaml.")).toBeTruthy();
    expect(calls.filter(({ what }) => what === COMPARE)).toHaveLength(2);
  });

  it("offers nothing where nothing is chosen or can come", async () => {
    const { user } = show({ [COMPARE]: { stamp: "s", parts: PARTS.slice(2) } });
    await user.upload(await screen.findByLabelText("Blog file as YAML"), file);
    expect((await region()).textContent).toContain("Nothing is chosen.");
    expect(within(await region()).queryByRole("checkbox")).toBeNull();
  });

  it("says what does not hold in a file", async () => {
    const { user } = show({ [COMPARE]: new ProblemError(422, "No", "This is no file of a blog.") });
    await user.upload(await screen.findByLabelText("Blog file as YAML"), file);
    expect(await screen.findByText("This is no file of a blog.")).toBeTruthy();
  });

  it("keeps the comparison where bringing in fails", async () => {
    const { user } = show({ [BRING]: new ProblemError(409, "No", "Somebody has changed the blog.") });
    await user.upload(await screen.findByLabelText("Blog file as YAML"), file);
    await user.click(within(await region()).getByRole("button", { name: "Bring in 2 parts" }));
    await user.click(await screen.findByRole("button", { name: "Bring them in" }));
    expect(await within(await region()).findByText("Somebody has changed the blog.")).toBeTruthy();
  });
});
