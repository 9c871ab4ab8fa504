import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { ProblemError } from "@/api/client";
import type { Schedule } from "@/api/schedules";
import { NO_SCHEDULE } from "@/lib/schedule";
import { pick } from "@/testing/render";
import { answering, last, screenAt } from "@/testing/server";
import { ScheduleDialog } from "./ScheduleDialog";

const CAMPAIGN = "GET /api/blogs/{blog}/campaigns/{slug}";
const TIMES = "POST /api/blogs/{blog}/schedule-times";
const SAVE = "PUT /api/blogs/{blog}/campaigns/{slug}/schedule";
const ZONE = "PUT /api/blogs/{blog}/time-zone";

function show(answers: Record<string, unknown> = {}, schedule: Schedule = NO_SCHEDULE) {
  const campaign = {
    slug: "sky",
    name: "Sky",
    schedule,
    schedule_version: 7,
    paused: false,
    time_zone: "Europe/Berlin",
  };
  const calls = answering({
    [CAMPAIGN]: campaign,
    [TIMES]: { times: ["2026-11-24T17:00:00Z", "2026-11-25T17:00:00Z"], time_zone: "Europe/Berlin" },
    [SAVE]: campaign,
    [ZONE]: null,
    "GET /api/time-zones": ["Asia/Tokyo", "Europe/Berlin", "UTC"],
    ...answers,
  });
  const onClose = vi.fn();
  const dialog = <ScheduleDialog blog="b" slug="sky" name="Sky" onClose={onClose} />;
  return { calls, onClose, ...screenAt("/desk/b/campaigns", "/desk/:blog/campaigns", dialog) };
}

describe("the schedule of a campaign", () => {
  it("shows the next times by the clock of the blog, before it is saved", async () => {
    const { user, calls, onClose } = show();
    await user.click(await screen.findByRole("radio", { name: "At times of day" }));
    expect(await screen.findByText("Tue 24 Nov, 18:00")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "time" }));
    await user.click(screen.getByRole("button", { name: "Su" }));
    await user.click(screen.getByRole("button", { name: "Save the schedule" }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(last(calls, SAVE).body).toEqual({
      schedule: {
        when: { kind: "daily", times: ["07:00", "08:00"], days: [1, 2, 3, 4, 5, 6] },
        first_day: null,
        last_day: null,
      },
      paused: false,
      version: 7,
    });
    expect(calls.some(({ what }) => what === ZONE)).toBe(false);
  });

  it("asks before it closes on edits, and has them again when it is opened", async () => {
    const { user, onClose, unmount } = show();
    await user.click(await screen.findByRole("radio", { name: "At times of day" }));
    await user.keyboard("{Escape}");
    await user.click(await screen.findByRole("button", { name: "Stay" }));
    expect(onClose).not.toHaveBeenCalled();
    await user.click(screen.getByRole("button", { name: "Cancel" }));
    await user.click(within(await screen.findByRole("alertdialog")).getByRole("button", { name: "Close" }));
    expect(onClose).toHaveBeenCalled();
    unmount();
    show();
    expect(await screen.findByText(/They are back, from a draft/)).toBeTruthy();
    expect(screen.getByRole("radio", { name: "At times of day" }).getAttribute("aria-checked")).toBe("true");
  });

  it("closes without a question where nothing was edited", async () => {
    const { user, onClose } = show();
    await user.click(await screen.findByRole("button", { name: "Cancel" }));
    expect(onClose).toHaveBeenCalled();
  });

  it("keeps a number of hours within what the server takes, whatever the unit", async () => {
    const { user, calls } = show({}, { ...NO_SCHEDULE, when: { kind: "every", minutes: 120 } });
    await screen.findByRole("combobox", { name: "Unit" });
    await pick(user, "Unit", "minutes");
    await waitFor(() =>
      expect((last(calls, TIMES).body as { schedule: Schedule }).schedule.when).toEqual({
        kind: "every",
        minutes: 5,
      }),
    );
  });

  it("says what is wrong with a cron expression", async () => {
    const fault = { path: "schedule.when.cron.expression", message: "give five parts", hint: "" };
    const { user } = show({ [TIMES]: new ProblemError(422, "No", "A fault.", [fault]) });
    await user.click(await screen.findByRole("radio", { name: "Cron" }));
    await user.clear(screen.getByLabelText("Cron expression"));
    await user.type(screen.getByLabelText("Cron expression"), "0 7 *");
    expect((await screen.findByRole("alert")).textContent).toContain("give five parts");
  });

  it("says that no time is left, and can be paused", async () => {
    const { user, calls } = show(
      { [TIMES]: { times: [], time_zone: "UTC" } },
      { when: { kind: "every", minutes: 60 }, first_day: null, last_day: "2020-01-01" },
    );
    expect(await screen.findByText(/There is no time left/)).toBeTruthy();
    await user.click(screen.getByRole("checkbox", { name: /^Paused/ }));
    await user.click(screen.getByRole("button", { name: "Last day: it is changed" }));
    await user.click(screen.getByRole("button", { name: "Save the schedule" }));
    await waitFor(() => expect(last(calls, SAVE).body).toMatchObject({ paused: true }));
    expect(last(calls, SAVE).body).toMatchObject({ schedule: { last_day: null } });
  });

  it("moves the whole blog to another time zone, and says so before", async () => {
    const { user, calls } = show({}, { ...NO_SCHEDULE, when: { kind: "every", minutes: 60 } });
    const zone = await screen.findByLabelText("Time zone of the blog");
    await user.clear(zone);
    await user.type(zone, "Asia/To");
    // A half-typed zone is not sent.
    expect(screen.queryByText(/all its campaigns follow/)).toBeNull();
    await user.type(zone, "kyo");
    expect(await screen.findByText(/all its campaigns follow/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Save the schedule" }));
    await waitFor(() => expect(last(calls, ZONE).body).toEqual({ time_zone: "Asia/Tokyo" }));
  });
});

describe("the schedule, by role", () => {
  const hourly = { ...NO_SCHEDULE, when: { kind: "every", minutes: 60 } } as Schedule;
  const as = (role: string) => show({ "GET /api/blogs": [{ slug: "b", title: "Almanac", role }] }, hourly);

  it("is saved by an editor, who cannot set the time zone of the blog", async () => {
    as("editor");
    expect(await screen.findByRole("button", { name: "Save the schedule" })).toBeTruthy();
    expect(screen.queryByLabelText("Time zone of the blog")).toBeNull();
    expect(screen.getByTitle("An owner of the blog sets its time zone.").textContent).toBe("Europe/Berlin");
  });

  it("is only read by a reviewer", async () => {
    as("reviewer");
    expect(await screen.findByRole("button", { name: "Cancel" })).toBeTruthy();
    await waitFor(() => expect(screen.queryByRole("button", { name: "Save the schedule" })).toBeNull());
  });
});
