import { describe, expect, it } from "vitest";
import type { When } from "@/api/schedules";
import { inUnit, newWhen, nextRunWords, scheduleWords } from "./schedule";

const words = (when: When) => scheduleWords({ when, first_day: null, last_day: null });

describe("a schedule in words", () => {
  it("says how often", () => {
    expect(words({ kind: "hand" })).toBe("by hand");
    expect(words({ kind: "every", minutes: 30 })).toBe("every 30 minutes");
    expect(words({ kind: "every", minutes: 60 })).toBe("every hour");
    expect(words({ kind: "every", minutes: 2880 })).toBe("every 2 days");
    expect(words({ kind: "every", minutes: 90 })).toBe("every 90 minutes");
  });

  it("says at which times of which days", () => {
    expect(words({ kind: "daily", times: ["07:00"], days: [1, 2, 3, 4, 5, 6, 7] })).toBe("daily at 07:00");
    expect(words({ kind: "daily", times: ["07:00", "12:00", "18:30"], days: [1, 2, 3, 4, 5] })).toBe(
      "Monday to Friday at 07:00, 12:00 and 18:30",
    );
    expect(words({ kind: "daily", times: ["07:00"], days: [2, 6] })).toBe("Tue and Sat at 07:00");
    expect(words({ kind: "cron", expression: "0 7 * * 1" })).toBe("cron 0 7 * * 1");
  });

  it("begins each kind with something that runs", () => {
    expect(newWhen("every")).toEqual({ kind: "every", minutes: 60 });
    expect(inUnit(120)).toEqual({ value: 2, unit: "hours" });
  });
});

describe("the next run in words", () => {
  const daily = { when: newWhen("daily"), first_day: null, last_day: null };

  it("is a time, or the reason why there is none", () => {
    const at = "2026-11-24T12:05:00Z";
    const berlin = { schedule: daily, time_zone: "Europe/Berlin" };
    // By the clock of the blog, as the schedule itself.
    expect(nextRunWords({ ...berlin, paused: false, next_run_at: at })).toBe("24 Nov, 13:05");
    expect(nextRunWords({ ...berlin, paused: true, next_run_at: null })).toBe("paused");
    expect(nextRunWords({ ...berlin, paused: false, next_run_at: null })).toBe("ended");
    const hand = { ...daily, when: newWhen("hand") };
    expect(nextRunWords({ ...berlin, schedule: hand, paused: true, next_run_at: null })).toBe("by hand");
  });
});
