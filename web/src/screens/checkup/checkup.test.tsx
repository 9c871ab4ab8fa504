import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Finding } from "@/api/campaigns";
import { findingWords, KNOWN_FINDINGS } from "@/lib/checkup";
import { answering, screenAt } from "@/testing/server";
import { CheckupDialog } from "./CheckupDialog";

const CHECKUP = "GET /api/blogs/{blog}/campaigns/{slug}/checkup";

const finding = (code: string, state: Finding["state"], data: Finding["data"] = {}): Finding => ({
  step: code.split(".")[0] as Finding["step"],
  state,
  code,
  data,
});

function show(findings: Finding[]) {
  answering({ [CHECKUP]: findings });
  return screenAt(
    "/desk/b/campaigns",
    "/desk/:blog/campaigns",
    <CheckupDialog blog="b" slug="sky" name="Sky" onClose={() => {}} />,
  );
}

describe("why nothing arrives", () => {
  it("marks the first step at which it stops, with what to do and where", async () => {
    const reasons = [{ stage: "sift", code: "terms.forbidden", rule: "No adverts", count: 4 }];
    show([
      finding("schedule.next", "ok", { at: "2026-11-24T12:00:00Z" }),
      finding("rules.refused", "stop", { total: 4, reasons }),
      finding("posts.held", "stop", { number: 3 }),
    ]);
    const [schedule, rules, posts] = await screen.findAllByRole("listitem");
    expect(schedule?.textContent).not.toContain("stops here.");
    expect(rules?.textContent).toContain("stops here.");
    expect(rules?.textContent).toContain("Sift: unwanted term by rule “No adverts” 4");
    const link = within(rules as HTMLElement).getByRole("link", { name: "Open the rules" });
    expect(link.getAttribute("href")).toBe("/desk/b/campaigns/sky?stage=sift");
    // Only the first says so: mend one thing, then ask again.
    expect(posts?.textContent).not.toContain("stops here.");
    const held = within(posts as HTMLElement).getByRole("link", { name: "Open the posts" });
    expect(held.getAttribute("href")).toBe("/desk/b/posts?campaign=sky&state=held");
  });

  it("says that nothing stops it", async () => {
    show([finding("run.done", "ok", { run: 3, at: "2026-11-24T12:00:00Z" })]);
    expect(await screen.findByText("Nothing stops it.")).toBeTruthy();
  });

  it("has words for every finding", () => {
    const times = { at: "2026-11-24T12:00:00Z", newest: "2026-11-24T12:00:00Z" };
    for (const code of KNOWN_FINDINGS) {
      const words = findingWords(finding(code, "stop", times), { blog: "b", slug: "sky" });
      expect(words.found, code).not.toBe(code);
      expect(`${words.found}${words.remedy}`, code).not.toMatch(/undefined|NaN|Invalid/);
    }
    expect(KNOWN_FINDINGS).toHaveLength(27);
    expect(findingWords(finding("new.code", "stop"), { blog: "b", slug: "s" }).found).toBe("new.code");
  });
});
