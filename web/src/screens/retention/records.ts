import type { KeptRecord } from "@/api/keeping";

/** The server counts no further. */
export const MOST_COUNTED = 100_000;

/** What each kind of record is, and what is lost with it. */
export const RECORDS: Record<KeptRecord["record"], { title: string; text: string }> = {
  traces: {
    title: "Traces of items without a post",
    text: "Each step of a decision. Its verdict and its reason stay.",
  },
  readings: {
    title: "Readings of sources",
    text: "When a source was read and what came. The counts of runs stay.",
  },
  payloads: {
    title: "Payloads of items without a post",
    text: "An item as its source gave it. Its texts stay, so that it can be proved and compared.",
  },
  changes: {
    title: "Former versions of posts",
    text: "What a post was before a change. That there was one, when and by whom, stays.",
  },
  bin: {
    title: "Posts in the bin",
    text: "After that they are deleted, and their addresses answer that they are gone.",
  },
  audit: {
    title: "Audit list",
    text: "Who did what. No entry goes within its first year.",
  },
};
