import { describe, expect, it } from "vitest";
import { healthWords, shortHealth } from "./health";

const SOURCE = {
  failing_since: null,
  next_read_at: null,
  read_detail: "",
  cause: "",
  remedy: "",
  health_data: {},
};

describe("how a source does", () => {
  it("says nothing where all is well", () => {
    expect(healthWords({ ...SOURCE, health: "ok" })).toBe("");
    expect(healthWords({ ...SOURCE, health: "unread" })).toBe("");
  });

  it("names a silence and what was usual", () => {
    const data = { hours: 100, longest_hours: 20, usual_hours: 4, gaps: 19 };
    const words = healthWords({ ...SOURCE, health: "quiet", health_data: data });
    expect(words).toContain("nothing new for 4 days.");
    expect(words).toContain("The longest gap between its last 20 items was 20 hours.");
    const short = { ...data, longest_hours: 0.2 };
    expect(healthWords({ ...SOURCE, health: "quiet", health_data: short })).toContain("less than an hour");
  });

  it("names what has changed", () => {
    const data = { lost: ["date", "picture"], words: 40, words_before: 300 };
    expect(healthWords({ ...SOURCE, health: "changed", health_data: data })).toBe(
      "Changed: its newest items have no longer a date, or a picture; they have 40 words, where earlier ones had 300. Look whether your rules still fit.",
    );
    const same = { lost: ["author"], words: 40, words_before: 40 };
    expect(healthWords({ ...SOURCE, health: "changed", health_data: same })).not.toContain("words");
  });

  it("says since when it fails, why, and when it is tried again", () => {
    const words = healthWords({
      ...SOURCE,
      health: "failing",
      health_data: { failures: 3 },
      failing_since: "2020-11-24T12:00:00",
      next_read_at: "2020-11-24T13:00:00",
      read_detail: "No site is known by the name wire.example.",
    });
    expect(words).toContain("Failing since 24 Nov 2020, 12:00, 3 readings in a row: No site is known");
    const once = healthWords({
      ...SOURCE,
      health: "failing",
      health_data: { failures: 1 },
      read_detail: "No.",
      remedy: "Correct it.",
    });
    expect(once).toBe("Failing: No. Correct it.");
    const row = shortHealth({ ...SOURCE, health: "failing", read_detail: "No site is known." });
    expect(row).toBe("failing: No site is known.");
    const address = {
      read_detail: "http://a.example/feed does not exist (404).",
      cause: "does not exist at its address",
    };
    expect(shortHealth({ ...SOURCE, health: "failing", ...address })).toBe(
      "failing: does not exist at its address",
    );
    expect(words).toContain("tries again from 24 Nov 2020, 13:00 on.");
  });

  it("tells one that comes and goes from one that fails", () => {
    const data = { failures: 0, failed_lately: 4 };
    const unsteady = healthWords({ ...SOURCE, health: "unsteady", health_data: data });
    expect(unsteady).toBe("Unsteady: 4 of its last ten readings failed.");
    const again = { ...SOURCE, health: "unsteady" as const, read_detail: "No." };
    expect(healthWords({ ...again, health_data: { ...data, failures: 1 } })).toContain(
      "The last one did: No.",
    );
  });

  it("says why one has given nothing yet", () => {
    const early = { ...SOURCE, health: "unread" as const, health_data: { failures: 1 } };
    expect(healthWords({ ...early, read_detail: "No.", remedy: "Wait." })).toBe("Not read yet: No. Wait.");
  });
});
