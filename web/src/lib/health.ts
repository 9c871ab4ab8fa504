import type { Health, Source } from "@/api/sources";
import type { LozengeKind } from "@/ui/Lozenge";
import { hours, moment, plural } from "./format";

/** The health of a source: its name in lists, and its mark. */
export const HEALTH: Record<Health, { name: string; mark: LozengeKind }> = {
  ok: { name: "OK", mark: "publish" },
  quiet: { name: "quiet", mark: "hold" },
  changed: { name: "changed", mark: "hold" },
  unsteady: { name: "unsteady", mark: "hold" },
  failing: { name: "failing", mark: "refused" },
  gone: { name: "gone", mark: "refused" },
  unread: { name: "not read yet", mark: "idle" },
};

type Judged = Pick<
  Source,
  "health" | "health_data" | "failing_since" | "next_read_at" | "read_detail" | "remedy"
>;

/** Hours as a person says them: under two days in hours, else in days. */
function span(value: number): string {
  if (value < 1) return "less than an hour";
  return value < 48 ? plural(Math.round(value), "hour") : hours(Math.round(value / 24) * 24);
}

const LOST: Record<string, string> = { date: "a date", picture: "a picture", author: "an author" };

function changedWords(data: Record<string, unknown>): string {
  const lost = ((data.lost as string[] | undefined) ?? []).map((name) => LOST[name] ?? name);
  const [words, before] = [Number(data.words ?? 0), Number(data.words_before ?? 0)];
  const parts = [
    ...(lost.length ? [`its newest items have no longer ${lost.join(", or ")}`] : []),
    ...(words === before ? [] : [`they have ${words} words, where earlier ones had ${before}`]),
  ];
  return parts.join("; ");
}

/** The health of a source, for a row of the list: the cause first, since the row has no place for the address. */
export function shortHealth(source: Judged & Pick<Source, "cause">): string {
  const { name, mark } = HEALTH[source.health];
  const why = source.cause || source.read_detail;
  return mark === "refused" && why ? `${name}: ${why}` : healthWords(source);
}

/** The health of a source with its reason, in one sentence; empty where all is well. */
export function healthWords(source: Judged): string {
  const data = source.health_data;
  switch (source.health) {
    case "quiet":
      return `Quiet: nothing new for ${span(Number(data.hours))}. The longest gap between its last ${Number(data.gaps) + 1} items was ${span(Number(data.longest_hours))}. Look at its site whether it still publishes.`;
    case "changed":
      if (data.layout) {
        return "Changed: the layout of its site is another one. New posts from it are held. Its page reader says what has dropped, and proposes a mend.";
      }
      return `Changed: ${changedWords(data)}. Look whether your rules still fit.`;
    case "failing": {
      const since = source.failing_since ? ` since ${moment(source.failing_since)}` : "";
      const failures = Number(data.failures);
      const times = failures > 1 ? `, ${plural(failures, "reading")} in a row` : "";
      const next = source.next_read_at
        ? ` A schedule tries again from ${moment(source.next_read_at)} on.`
        : "";
      return `Failing${since}${times}: ${source.read_detail} ${source.remedy}${next}`;
    }
    case "unsteady": {
      const failed = Number(data.failed_lately);
      const last = Number(data.failures) > 0 ? ` The last one did: ${source.read_detail}` : "";
      return `Unsteady: ${failed} of its last ten readings failed.${last}`;
    }
    case "unread":
      return Number(data.failures) > 0 ? `Not read yet: ${source.read_detail} ${source.remedy}` : "";
    case "gone":
      return `Gone: ${source.read_detail} Look for another address on its site, or remove it. “Read now” tries once more.`;
    default:
      return "";
  }
}
