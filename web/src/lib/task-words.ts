import type { Task } from "@/api/tasks";
import { bytes, count } from "./format";

const TITLES: Record<string, (subject: string) => string> = {
  run: (subject) => `Run of ${subject}`,
  replay: (subject) => `Comparing the posts of ${subject} with its rules`,
  apply: (subject) => `Applying the rules of ${subject} to its posts`,
  change: (subject) => (subject ? `Changing posts of ${subject}` : "Changing posts"),
  older: (subject) => `Reading older items of ${subject}`,
  feed_list: (subject) => `Bringing in ${subject}`,
  services: () => "Asking language services",
  editions: () => "Making editions",
  texts: (subject) => `Reading the pages of ${subject}`,
  pictures: () => "Copying pictures",
  recording: (subject) => `Copying ${subject}`,
  deletion: (subject) => `Deleting the campaign ${subject}`,
};

const UNITS: Record<string, string> = {
  "run gathering": "sources read",
  "run deciding": "items decided",
  services: "texts answered",
  "editions making": "editions made",
  "feed_list adding": "sources made",
  "feed_list gathering": "sources read",
  replay: "items compared",
  apply: "posts changed",
  "apply writing": "new posts written",
  change: "posts changed",
  texts: "pages read",
  pictures: "pictures copied",
  deletion: "posts deleted",
};

const MINUTE = 60;
const HOUR = 3600;

/** What a task does, in a few words. */
export function taskTitle(task: Task): string {
  return TITLES[task.kind]?.(task.subject) ?? task.subject;
}

/** How far a task is: "12 of 40 sources read". Empty where nothing is known yet. */
export function taskProgress(task: Task): string {
  if (task.done === 0 && task.ended_at === null && !isGathering(task)) return "";
  if (task.kind === "recording") {
    return task.total > 0 ? `${bytes(task.done)} of ${bytes(task.total)}` : bytes(task.done);
  }
  if (task.kind === "older") return task.done > 0 ? `${count(task.done)} pages read` : "";
  const unit = UNITS[`${task.kind} ${task.phase}`.trim()] ?? "";
  return task.total > 0 ? `${count(task.done)} of ${count(task.total)} ${unit}`.trim() : "";
}

/** How long the rest may take, in words. Empty where it is not known. */
export function timeLeft(seconds: number | null): string {
  if (seconds === null) return "";
  if (seconds < 10) return "a few seconds left";
  if (seconds < MINUTE) return `about ${Math.ceil(seconds / 10) * 10} s left`;
  if (seconds < HOUR) return `about ${Math.round(seconds / MINUTE)} min left`;
  return `about ${Math.round(seconds / HOUR)} h left`;
}

const STATES: Record<Task["state"], string> = {
  waiting: "waits for its turn",
  working: "",
  done: "done",
  stopped: "stopped",
  failed: "failed",
};

/** Whether others read sources for it: it waits for them, and not for its turn. */
function isGathering(task: Task): boolean {
  return task.phase === "gathering" && task.total > 0;
}

/** The state of a task beside its progress. Empty while it works. */
export function taskState(task: Task): string {
  if (task.stop_asked && task.ended_at === null) return "stopping after this batch";
  return task.state === "waiting" && isGathering(task) ? "" : STATES[task.state];
}
