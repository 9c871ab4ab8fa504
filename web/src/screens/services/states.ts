import type { Service } from "@/api/services";
import { moment } from "@/lib/format";

const STATES: Record<Service["state"], { label: string; tone: "verd" | "madder" | "ochre" | "plain" }> = {
  unchecked: { label: "not tried", tone: "plain" },
  valid: { label: "answers", tone: "verd" },
  wrong: { label: "wrong key", tone: "madder" },
  over_limit: { label: "used up", tone: "ochre" },
  unreachable: { label: "not reached", tone: "madder" },
  unreadable: { label: "answer not read", tone: "madder" },
};

/** The name and tone of a service's state. */
export function stateOf(service: Service) {
  return STATES[service.state];
}

const TASKS: Record<Service["tasks"][number], string> = {
  translate: "translates",
  reword: "rewords",
  summarise: "summarises",
};

export function taskWords(service: Service): string {
  return service.tasks.map((task) => TASKS[task]).join(", ");
}

const whole = new Intl.NumberFormat("en");

/** What was sent today, of what may be sent. */
export function sentWords({ sent_today, most_a_day, waits_until }: Service): string {
  const sent = whole.format(sent_today);
  const quota = most_a_day
    ? `${sent} of ${whole.format(most_a_day)} characters sent today`
    : `${sent} characters sent today`;
  return `${quota}${waits_until ? `, waits until ${moment(waits_until)}` : ""}`;
}
