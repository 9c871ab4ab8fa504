import { describe, expect, it } from "vitest";
import type { Task } from "@/api/tasks";
import { taskProgress, taskState, taskTitle, timeLeft } from "./task-words";

function task(parts: Partial<Task>): Task {
  return { kind: "run", subject: "Sky", phase: "", done: 0, total: 0, ended_at: null, ...parts } as Task;
}

describe("the words of a task", () => {
  it("name what it works on", () => {
    expect(taskTitle(task({ kind: "older", subject: "Ridge Club" }))).toBe(
      "Reading older items of Ridge Club",
    );
    expect(taskTitle(task({ kind: "change", subject: "" }))).toBe("Changing posts");
    expect(taskTitle(task({ kind: "not known here", subject: "Sky" }))).toBe("Sky");
  });

  it("count what its phase counts, and nothing before that is known", () => {
    expect(taskProgress(task({ phase: "gathering", done: 1, total: 1200 }))).toBe("1 of 1,200 sources read");
    expect(taskProgress(task({ phase: "deciding" }))).toBe("");
    expect(taskProgress(task({ kind: "older", done: 3 }))).toBe("3 pages read");
    expect(taskProgress(task({ kind: "recording", done: 2_000_000, total: 8_000_000 }))).toMatch(
      /MB of .*MB/,
    );
  });

  it("do not say that a run waits for its turn while its sources are read", () => {
    const gathering = task({ state: "waiting", phase: "gathering", total: 3 });
    expect([taskState(gathering), taskProgress(gathering)]).toEqual(["", "0 of 3 sources read"]);
    expect(taskState(task({ state: "waiting", phase: "deciding", total: 3 }))).toBe("waits for its turn");
    expect(taskState(task({ state: "waiting", stop_asked: true }))).toBe("stopping after this batch");
  });

  it("round the time that is left", () => {
    expect(timeLeft(null)).toBe("");
    expect(timeLeft(4)).toBe("a few seconds left");
    expect(timeLeft(31)).toBe("about 40 s left");
    expect(timeLeft(150)).toBe("about 3 min left");
    expect(timeLeft(7300)).toBe("about 2 h left");
  });
});
