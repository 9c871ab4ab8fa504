import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Campaign, CampaignDocument } from "@/api/campaigns";
import { ProblemError } from "@/api/client";
import { DEFAULTS, WithBench } from "@/testing/bench";
import { pick } from "@/testing/render";
import { answering, last, screenAt } from "@/testing/server";
import { OverDialog } from "../over/OverDialog";
import type { BenchState } from "../useBench";
import { AddressDialog } from "./AddressDialog";
import { AgainDialog } from "./AgainDialog";
import { ArchiveDialog } from "./ArchiveDialog";
import { DefaultsDialog } from "./DefaultsDialog";
import { ForgetDialog } from "./ForgetDialog";
import { NoteDialog } from "./NoteDialog";
import { RenameDialog } from "./RenameDialog";
import { RevisionsDialog } from "./RevisionsDialog";
import { YamlDialog } from "./YamlDialog";

const BASE = "/api/blogs/{blog}/campaigns/{slug}";
const CAMPAIGN = { slug: "sky", name: "Sky", revision: 3, document: DEFAULTS } as unknown as Campaign;
const props = () => ({ blog: "b", campaign: CAMPAIGN, onClose: vi.fn(), onLoad: vi.fn() });

const at = (element: React.ReactNode) =>
  screenAt("/desk/b/campaigns/sky", "/desk/:blog/campaigns/:slug", element);

function onBench(
  begun: CampaignDocument,
  show: (bench: BenchState) => React.ReactNode,
  answers: Record<string, unknown>,
) {
  const calls = answering(answers);
  const view = at(
    <WithBench begun={begun} seen={[]}>
      {show}
    </WithBench>,
  );
  return { calls, ...view };
}

describe("revisions", () => {
  const older: CampaignDocument = { ...DEFAULTS, place: { ...DEFAULTS.place, byline: "Night desk" } };
  const rows = [
    { number: 3, saved_at: "2026-11-24T12:00:00Z", saved_by: "Mira", note: "" },
    { number: 2, saved_at: "2026-11-23T12:00:00Z", saved_by: "Ada", note: "too many let in" },
  ];
  const answers = {
    [`GET ${BASE}/revisions`]: { rows, total: 2 },
    [`GET ${BASE}/revisions/{number}`]: ({ path }: { path: Record<string, unknown> }) =>
      path.number === 3 ? DEFAULTS : older,
  };

  it("say who saved them and why, and what has changed since", async () => {
    answering(answers);
    const { user } = at(<RevisionsDialog {...props()} />);
    const second = await screen.findByRole("button", { name: /too many let in/ });
    expect(second.textContent).toContain("Ada");
    await user.click(second);
    const change = await screen.findByText("Night desk");
    expect(change.tagName).toBe("DEL");
    expect(change.closest("li")?.textContent).toContain("place › byline");
  });

  it("are brought back to the bench, and not saved by that", async () => {
    const calls = answering(answers);
    const given = props();
    const { user } = at(<RevisionsDialog {...given} />);
    await user.click(await screen.findByRole("button", { name: /too many let in/ }));
    await user.click(await screen.findByRole("button", { name: "Load these rules on the bench" }));
    expect(given.onLoad).toHaveBeenCalledWith(older);
    expect(given.onClose).toHaveBeenCalled();
    expect(calls.every(({ what }) => what.startsWith("GET"))).toBe(true);
  });

  it("that are the same as now offer nothing to bring back", async () => {
    answering(answers);
    const { user } = at(<RevisionsDialog {...props()} />);
    await user.click(await screen.findByRole("button", { name: /Mira/ }));
    expect(await screen.findByText("The same rules as now.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Bring these/ })).toBeNull();
  });
});

describe("rules as YAML", () => {
  const read = "POST /api/campaign-documents";
  const saved = { [`GET ${BASE}/yaml`]: { yaml: "format: 1\n", file_name: "sky.yaml" } };

  it("can be kept as a file", async () => {
    answering(saved);
    at(<YamlDialog {...props()} />);
    const link = await screen.findByRole("link", { name: "Download" });
    expect(link.getAttribute("download")).toBe("sky.yaml");
    expect(decodeURIComponent(link.getAttribute("href") ?? "")).toContain("format: 1");
  });

  it("are taken to the bench once they were changed", async () => {
    const calls = answering({ ...saved, [read]: DEFAULTS });
    const given = props();
    const { user } = at(<YamlDialog {...given} />);
    const take = screen.getByRole("button", { name: "Load on the bench" });
    expect(take.hasAttribute("disabled")).toBe(true);
    await screen.findByRole("link", { name: "Download" });
    await user.type(screen.getByRole("textbox", { name: "Rules as YAML" }), "gather: x");
    await user.click(take);
    expect(last(calls, read).body).toEqual({ yaml: "format: 1\ngather: x" });
    expect(given.onLoad).toHaveBeenCalledWith(DEFAULTS);
  });

  it("say at which path something is wrong, and how to mend it", async () => {
    const faults = [{ path: "sift.rules.0.terms", message: "must be a list", hint: "write [comet]" }];
    answering({ ...saved, [read]: new ProblemError(422, "No", "no", faults) });
    const { user } = at(<YamlDialog {...props()} />);
    await user.type(screen.getByRole("textbox", { name: "Rules as YAML" }), "x");
    await user.click(screen.getByRole("button", { name: "Load on the bench" }));
    expect((await screen.findByRole("alert")).textContent).toBe(
      "sift.rules.0.terms: must be a list; write [comet]",
    );
  });
});

describe("the memory of a campaign", () => {
  const count = `GET ${BASE}/memory`;
  const forget = `DELETE ${BASE}/memory`;

  it("says how much it forgets before it does", async () => {
    const calls = answering({ [count]: { items: 37 }, [forget]: { items: 37 } });
    const given = props();
    const { user } = at(<ForgetDialog {...given} />);
    expect(await screen.findByText(/forgets 37 items that did not become posts/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Forget 37 items" }));
    expect(last(calls, forget).path).toEqual({ blog: "b", slug: "sky" });
    expect(await screen.findByText(/^Forgotten: 37 items/)).toBeTruthy();
    expect(given.onClose).toHaveBeenCalled();
  });

  it("cannot be cleared where there is nothing in it", async () => {
    answering({ [count]: { items: 0 } });
    at(<ForgetDialog {...props()} />);
    expect((await screen.findByRole("button", { name: "Forget 0 items" })).hasAttribute("disabled")).toBe(
      true,
    );
  });
});

describe("the defaults of the blog", () => {
  const get = "GET /api/blogs/{blog}/defaults";
  const put = "PUT /api/blogs/{blog}/defaults";
  const clear = "DELETE /api/blogs/{blog}/defaults";
  const mine: CampaignDocument = { ...DEFAULTS, place: { ...DEFAULTS.place, byline: "Ada" } };

  it("are made of the rules on the bench, which say where they differ", async () => {
    const { user, calls } = onBench(
      mine,
      (bench) => <DefaultsDialog blog="b" bench={bench} onClose={() => {}} />,
      { [get]: DEFAULTS, [put]: mine },
    );
    const differences = await screen.findByRole("list", { name: "Differences" });
    expect(within(differences).getByText("Ada")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Make these rules the defaults" }));
    expect(last(calls, put).body).toEqual(mine);
    expect(await screen.findByText("These rules are the same as the defaults of the blog.")).toBeTruthy();
  });

  it("are dropped after a question", async () => {
    const { user, calls } = onBench(
      DEFAULTS,
      (bench) => <DefaultsDialog blog="b" bench={bench} onClose={() => {}} />,
      { [get]: DEFAULTS, [clear]: DEFAULTS },
    );
    await user.click(await screen.findByRole("button", { name: "Back to the original defaults" }));
    await user.click(screen.getByRole("button", { name: "Drop defaults" }));
    expect(last(calls, clear).path).toEqual({ blog: "b" });
  });
});

describe("what a proof is made over", () => {
  const samples = "GET /api/blogs/{blog}/samples";
  const keep = "POST /api/blogs/{blog}/samples";
  const sources = [{ key: "club", title: "Club" }];
  const begun: CampaignDocument = { ...DEFAULTS, gather: { ...DEFAULTS.gather, sources: ["club"] } };
  const closed = vi.fn();
  const SAMPLE = { id: 5, name: "Pasted sample", items: 3, made_at: "2026-11-24T12:00:00Z" };
  const show = (answers: Record<string, unknown> = {}) =>
    onBench(
      begun,
      (bench) => (
        <>
          <OverDialog blog="b" campaign={CAMPAIGN} bench={bench} onClose={closed} />
          <output>{JSON.stringify([bench.over, bench.against])}</output>
        </>
      ),
      {
        "POST /api/blogs/{blog}/chosen-sources": { rows: sources, total: 1, lost: [] },
        [`GET ${BASE}/revisions`]: {
          rows: [
            { number: 3, note: "" },
            { number: 2, note: "first try" },
          ],
          total: 2,
        },
        [samples]: [],
        ...answers,
      },
    );
  const chosen = () => JSON.parse(document.querySelector("output")?.textContent ?? "") as unknown[];

  it("can be the items of so many days, of one source of the rules", async () => {
    const { user } = show();
    const days = await screen.findByLabelText("Days");
    await user.clear(days);
    await user.type(days, "7");
    screen.getByRole("combobox", { name: "Source" }).focus();
    await user.keyboard("{Enter}");
    expect(screen.getAllByRole("option").map((option) => option.textContent)).toEqual([
      "all sources",
      "Club",
    ]);
    await user.click(screen.getByRole("option", { name: "Club" }));
    expect(chosen()[0]).toMatchObject({ days: 7, source: "club" });
  });

  it("can be held against any revision, and against the saved one again", async () => {
    const { user } = show();
    await screen.findByLabelText("Days");
    await pick(user, "Revision", "revision 2: first try");
    expect(chosen()[1]).toBe(2);
    await pick(user, "Revision", "revision 3 (saved)");
    expect(chosen()[1]).toBeNull();
  });

  it("can be a feed that was pasted, or one at an address", async () => {
    const { user, calls } = show({ [keep]: SAMPLE });
    const field = await screen.findByLabelText("Address or feed");
    await user.type(field, "https://club.example/feed");
    await user.click(screen.getByRole("button", { name: "Fetch it for the proof" }));
    expect(last(calls, keep).body).toMatchObject({ address: "https://club.example/feed", content: "" });
    expect(chosen()[0]).toMatchObject({ sample: 5 });
    await user.type(screen.getByLabelText("Address or feed"), "<rss/>");
    await user.click(screen.getByRole("button", { name: "Use it for the proof" }));
    expect(last(calls, keep).body).toMatchObject({
      content: btoa("<rss/>"),
      name: "Pasted sample",
      address: "",
    });
  });

  it("can be a file, unless it is too large", async () => {
    const { user, calls } = show({ [keep]: SAMPLE });
    const field = (await screen.findByLabelText("Feed file")) as HTMLInputElement;
    await user.upload(field, new File([new Uint8Array(3_000_001)], "huge.xml", { type: "application/xml" }));
    expect((await screen.findByRole("alert")).textContent).toContain("huge.xml is larger than 3 MB");
    await user.upload(field, new File(["<rss/>"], "small.xml", { type: "application/xml" }));
    await waitFor(() => expect(last(calls, keep).body).toMatchObject({ name: "small.xml" }));
  });

  it("says why a sample is no feed, and keeps what was typed", async () => {
    const { user } = show({ [keep]: new ProblemError(422, "No", "This cannot be read as a feed.") });
    await user.type(await screen.findByLabelText("Address or feed"), "hello");
    await user.click(screen.getByRole("button", { name: "Use it for the proof" }));
    expect((await screen.findByRole("alert")).textContent).toBe("This cannot be read as a feed.");
    expect((screen.getByLabelText("Address or feed") as HTMLTextAreaElement).value).toBe("hello");
  });

  it("can be a sample that was given before", async () => {
    const { user } = show({ [samples]: [SAMPLE] });
    await user.click(await screen.findByRole("button", { name: /^Pasted sample · 3 items/ }));
    expect(chosen()[0]).toMatchObject({ sample: 5 });
  });

  it("has samples that are renamed and removed, and goes back to the last days where the chosen one is lost", async () => {
    const one = "/api/blogs/{blog}/samples/{number}";
    const { user, calls } = show({
      [samples]: [SAMPLE],
      [`PATCH ${one}`]: { ...SAMPLE, name: "Club week" },
      [`DELETE ${one}`]: null,
    });
    await user.click(await screen.findByRole("button", { name: "Rename Pasted sample" }));
    await user.keyboard("Club week{Escape}");
    // Escape leaves the field, not the dialog.
    expect(closed).not.toHaveBeenCalled();
    await user.click(screen.getByRole("button", { name: "Rename Pasted sample" }));
    await user.keyboard("Club week{Enter}");
    await waitFor(() => expect(last(calls, `PATCH ${one}`).body).toEqual({ name: "Club week" }));
    expect(calls.filter(({ what }) => what === `PATCH ${one}`)).toHaveLength(1);
    await user.click(screen.getByRole("button", { name: /^Pasted sample · 3 items/ }));
    expect(chosen()[0]).toMatchObject({ sample: 5 });
    await user.click(screen.getByRole("button", { name: "Remove Pasted sample" }));
    await user.click(screen.getByRole("button", { name: "Remove sample" }));
    await waitFor(() => expect(last(calls, `DELETE ${one}`).path).toEqual({ blog: "b", number: 5 }));
    await waitFor(() => expect(chosen()[0]).toMatchObject({ sample: null, days: 30 }));
  });
});

describe("the campaign itself", () => {
  it("is said to have the name of another one, which is not its own", async () => {
    const rows = [
      { slug: CAMPAIGN.slug, name: CAMPAIGN.name },
      { slug: "moon", name: "Moon" },
    ];
    answering({ "GET /api/blogs/{blog}/campaign-overview": { rows, total: 2 } });
    const { user } = at(<RenameDialog {...props()} />);
    const name = screen.getByLabelText(/^Name/);
    await user.clear(name);
    await user.type(name, "MOON");
    const warning = await screen.findByText(/There is a campaign named/);
    expect(within(warning).getByRole("link", { name: "Moon" })).toBeTruthy();
    await user.clear(name);
    await user.type(name, CAMPAIGN.name);
    expect(screen.queryByText(/There is a campaign named/)).toBeNull();
  });

  it("is renamed", async () => {
    const calls = answering({ [`PATCH ${BASE}`]: { ...CAMPAIGN, name: "Night sky" } });
    const given = props();
    const { user } = at(<RenameDialog {...given} />);
    const name = screen.getByLabelText(/^Name/);
    await user.clear(name);
    expect(screen.getByRole("button", { name: "Rename" }).hasAttribute("disabled")).toBe(true);
    await user.type(name, "Night sky");
    await user.click(screen.getByRole("button", { name: "Rename" }));
    expect(last(calls, `PATCH ${BASE}`).body).toEqual({ name: "Night sky" });
    await waitFor(() => expect(given.onClose).toHaveBeenCalled());
  });

  it("is archived after it was said what stays", async () => {
    const calls = answering({ [`PUT ${BASE}/archived`]: null });
    const { user, address } = at(<ArchiveDialog {...props()} />);
    expect(screen.getByText(/Its posts, decisions and revisions stay/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Archive" }));
    await waitFor(() => expect(address()).toBe("/desk/b/campaigns"));
    expect(last(calls, `PUT ${BASE}/archived`).body).toEqual({ archived: true });
  });

  it("stays when the server refuses to archive it", async () => {
    answering({ [`PUT ${BASE}/archived`]: new ProblemError(409, "No", "It is being deleted.") });
    const { user, address } = at(<ArchiveDialog {...props()} />);
    await user.click(screen.getByRole("button", { name: "Archive" }));
    expect(await screen.findByText("It is being deleted.")).toBeTruthy();
    expect(address()).toBe("/desk/b/campaigns/sky");
  });

  it("has a mail address that is told of its runs", async () => {
    const calls = answering({
      [`GET ${BASE}/address`]: { email: "old@club.example", mail_is_set_up: false },
      [`PUT ${BASE}/address`]: { email: "", mail_is_set_up: false },
    });
    const given = props();
    const { user } = at(<AddressDialog {...given} />);
    expect(await screen.findByText(/has no mail server/)).toBeTruthy();
    await user.clear(screen.getByDisplayValue("old@club.example"));
    await user.click(screen.getByRole("button", { name: "Save" }));
    expect(last(calls, `PUT ${BASE}/address`).body).toEqual({ email: "" });
    await waitFor(() => expect(given.onClose).toHaveBeenCalled());
  });

  it("is saved with a note", async () => {
    const save = vi.fn();
    const { user } = at(<NoteDialog revision={4} busy={false} onSave={save} onClose={() => {}} />);
    await user.type(screen.getByLabelText(/^Note/), "  too many let in {Enter}");
    expect(save).toHaveBeenCalledWith("too many let in");
  });
});

describe("running again from nothing", () => {
  it("says what goes, leads to the differences, and begins the run", async () => {
    const calls = answering({
      [`GET ${BASE}/again`]: { posts: 12, states: { published: 10, held: 2 }, edited: 1, commented: 0 },
      [`POST ${BASE}/again`]: { change: 1, run: 44 },
    });
    const { user, address } = at(<AgainDialog {...props()} />);
    expect(await screen.findByText(/12 posts: 10 published, 2 held/)).toBeTruthy();
    const link = screen.getByRole("link", { name: "Look at the differences first" });
    expect(link.getAttribute("href")).toBe("/desk/b/campaigns/sky/replay");
    await user.click(screen.getByLabelText(/Keep those that people have worked on: 1 edited by hand/));
    await user.click(screen.getByRole("button", { name: "Delete and run" }));
    expect(last(calls, `POST ${BASE}/again`).body).toEqual({ spare: false });
    await waitFor(() => expect(address()).toBe("/desk/b/runs/44"));
  });
});
