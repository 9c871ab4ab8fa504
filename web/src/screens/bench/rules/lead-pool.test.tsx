import { screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { pick } from "@/testing/render";
import { answering, screenAt } from "@/testing/server";
import { LeadPool } from "./LeadPool";

const PICTURES = { "GET /api/blogs/{blog}/pictures": { rows: [], total: 0, labels: ["night", "sky"] } };
const at = (element: React.ReactNode) =>
  screenAt("/desk/b/campaigns/sky", "/desk/:blog/campaigns/:slug", element);

describe("pictures of the library", () => {
  it("are chosen by their label, or not at all", async () => {
    answering(PICTURES);
    const change = vi.fn();
    const { user } = at(<LeadPool pool="night" onChange={change} />);
    expect(await screen.findByText("those labelled “night”")).toBeTruthy();
    await pick(user, "Pictures of the library", "those labelled “sky”");
    expect(change).toHaveBeenLastCalledWith("sky");
    await pick(user, "Pictures of the library", "none by label");
    expect(change).toHaveBeenLastCalledWith("");
  });

  it("keep a label that no picture has any more in sight", async () => {
    answering(PICTURES);
    at(<LeadPool pool="moon" onChange={vi.fn()} />);
    expect(await screen.findByText("those labelled “moon”")).toBeTruthy();
  });
});
