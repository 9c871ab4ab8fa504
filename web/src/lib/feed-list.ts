import type { FeedList, ListEntry, ListOutcome } from "@/api/feed-lists";
import type { LozengeKind } from "@/ui/Lozenge";
import { plural } from "./format";

/** The outcomes of entries: their name in a list, and their mark. */
export const OUTCOMES: Record<ListOutcome, { name: string; mark: LozengeKind }> = {
  failed: { name: "could not be read", mark: "refused" },
  bad: { name: "no address of a feed", mark: "refused" },
  double: { name: "named twice", mark: "idle" },
  known: { name: "a source before", mark: "idle" },
  read: { name: "read", mark: "publish" },
  added: { name: "a source, not read yet", mark: "hold" },
  waiting: { name: "waits", mark: "idle" },
};

/** Outcomes that need a person come first. */
export const OUTCOME_ORDER = Object.keys(OUTCOMES) as ListOutcome[];

const FAULTS: Record<string, string> = {
  no_host: "The address has no host, as in “http://”.",
  not_web: "The address begins with neither http:// nor https://.",
  too_long: "The address is longer than 2,000 characters.",
  double: "The same address stands further up.",
  not_read: "It did not answer while the list was read. A campaign that uses it tries again.",
};

/** Why an entry could not be read, or is no source. */
export function entryReason(entry: Pick<ListEntry, "code" | "detail">): string {
  return entry.detail || FAULTS[entry.code] || "";
}

export function faultWords(fault: string): string {
  return FAULTS[fault] ?? fault;
}

/** The number of entries of a list. */
export function listSize(list: FeedList): number {
  return Object.values(list.counts).reduce((sum, number) => sum + (number ?? 0), 0);
}

/** What became of a list, in a line: “3 could not be read · 120 read”. */
export function listSummary(list: FeedList): string {
  const parts = OUTCOME_ORDER.filter((outcome) => list.counts[outcome]).map(
    (outcome) => `${list.counts[outcome]} ${OUTCOMES[outcome].name}`,
  );
  return parts.length ? parts.join(" · ") : plural(0, "feed");
}
