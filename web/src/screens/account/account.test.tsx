import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ProblemError } from "@/api/client";
import { answering, last, screenAt } from "@/testing/server";
import Account from "./Account";

const ACCOUNT = {
  user_name: "mira",
  full_name: "Mira",
  email: "mira@club.example",
  second_factor: false,
  recovery_codes: 0,
  mail_is_set_up: true,
};
const NOTICES = {
  problems: false,
  posts: false,
  digest: "never",
  address: "mira@club.example",
  mail_is_set_up: true,
};
const SESSION = { name: "Mira", csrf_token: "t", version: "1" };

function show(answers: Record<string, unknown> = {}) {
  const calls = answering({
    "GET /api/account": ACCOUNT,
    "GET /api/account/tokens": [],
    "GET /api/removed-blogs": [],
    "GET /api/blogs/{blog}/notices": NOTICES,
    ...answers,
  });
  return { calls, ...screenAt("/desk/b/account", "/desk/:blog/account", <Account />) };
}

const part = (name: string) => screen.findByRole("region", { name });

describe("your account", () => {
  it("keeps name and mail address, and names an address that is none", async () => {
    const fault = { path: "email", message: "“x” is no mail address.", hint: "" };
    const { user } = show({ "PUT /api/account": new ProblemError(422, "No", fault.message, [fault]) });
    await user.click(within(await part("Name and mail")).getByRole("button", { name: "Save" }));
    expect(await screen.findAllByText(fault.message)).toHaveLength(1);
  });

  it("asks for the password only where the mail address changes", async () => {
    const { user, calls } = show({ "PUT /api/account": ACCOUNT });
    const box = within(await part("Name and mail"));
    expect(box.queryByLabelText(/^Present password/)).toBeNull();
    await user.type(box.getByLabelText(/^Mail address/), "x");
    await user.type(box.getByLabelText(/^Present password/), "old one{Enter}");
    await waitFor(() => expect(last(calls, "PUT /api/account").body).toMatchObject({ password: "old one" }));
  });

  it("changes the password, and empties the fields", async () => {
    const { user, calls } = show({ "PUT /api/account/password": SESSION });
    const box = within(await part("Password"));
    await user.type(box.getByLabelText(/^Present password/), "old one");
    await user.type(box.getByLabelText(/^New password/), "seven quiet owls{Enter}");
    expect(await screen.findByText(/All other sessions and API tokens have ended/)).toBeTruthy();
    expect(last(calls, "PUT /api/account/password").body).toEqual({
      old: "old one",
      password: "seven quiet owls",
    });
    expect((box.getByLabelText(/^New password/) as HTMLInputElement).value).toBe("");
  });

  it("switches a second factor on, and shows the recovery codes once", async () => {
    const { user, calls } = show({
      "POST /api/account/second-factor": { secret: "ABCD", picture: "data:image/svg+xml," },
      "PUT /api/account/second-factor": { codes: ["aa-bb", "cc-dd"] },
    });
    await user.click(within(await part("Second factor")).getByRole("button", { name: "Switch on" }));
    await user.type(await screen.findByLabelText("Code"), "123456");
    const dialog = within(screen.getByRole("dialog"));
    await user.type(dialog.getByLabelText("Present password"), "old one{Enter}");
    expect(await screen.findByText("aa-bb")).toBeTruthy();
    expect(last(calls, "PUT /api/account/second-factor").body).toEqual({
      secret: "ABCD",
      code: "123456",
      password: "old one",
    });
    await user.click(screen.getByRole("button", { name: "I have kept them" }));
    await waitFor(() => expect(screen.queryByText("aa-bb")).toBeNull());
  });

  it("switches it off with the password", async () => {
    const { user, calls } = show({
      "GET /api/account": { ...ACCOUNT, second_factor: true, recovery_codes: 1 },
      "POST /api/account/second-factor/off": ACCOUNT,
    });
    const box = within(await part("Second factor"));
    expect(box.getByText(/1 recovery code left/)).toBeTruthy();
    await user.type(box.getByLabelText(/^Present password/), "old one{Enter}");
    expect(last(calls, "POST /api/account/second-factor/off").body).toEqual({ password: "old one" });
  });

  it("signs out everywhere else", async () => {
    const { user } = show({ "DELETE /api/account/other-sessions": SESSION });
    await user.click(await screen.findByRole("button", { name: "Sign out everywhere else" }));
    expect(await screen.findByText("All other sessions and API tokens have ended.")).toBeTruthy();
  });

  it("makes a token, and shows its key once", async () => {
    const token = {
      id: 3,
      name: "Export",
      role: "viewer",
      made_at: "2026-11-24T12:00:00Z",
      ends_at: "2999-01-01T00:00:00Z",
      used_at: null,
    };
    const { user, calls } = show({
      "POST /api/account/tokens": { token, key: "glyptarch_secret-key-of-it" },
    });
    await user.click(within(await part("API tokens")).getByRole("button", { name: "New token" }));
    await user.type(within(screen.getByRole("dialog")).getByLabelText(/^Name/), "Export{Enter}");
    expect(await screen.findByDisplayValue("glyptarch_secret-key-of-it")).toBeTruthy();
    expect(last(calls, "POST /api/account/tokens").body).toEqual({
      name: "Export",
      role: "viewer",
      days: 90,
    });
  });

  it("says at once what is told by mail, and what is missing for it", async () => {
    const { user, calls } = show({
      "GET /api/blogs/{blog}/notices": { ...NOTICES, address: "" },
      "PUT /api/blogs/{blog}/notices": NOTICES,
    });
    await user.click(await screen.findByLabelText(/^Problems at once/));
    expect(last(calls, "PUT /api/blogs/{blog}/notices").body).toMatchObject({
      problems: true,
      digest: "never",
    });
    expect(screen.getByText(/Give your mail address above/)).toBeTruthy();
  });

  it("restores a removed blog", async () => {
    const { user, calls } = show({
      "GET /api/removed-blogs": [{ slug: "old", title: "Old", removed_at: "2026-11-24T12:00:00Z" }],
      "DELETE /api/removed-blogs/{slug}": { slug: "old", title: "Old", role: "owner" },
    });
    await user.click(await screen.findByRole("button", { name: "Restore" }));
    expect(last(calls, "DELETE /api/removed-blogs/{slug}").path).toEqual({ slug: "old" });
  });
});
