import type { Schedule } from "@/api/schedules";
import { scheduleWords } from "./schedule";

/** The actions of the audit in words. */
const ACTIONS: Record<string, string> = {
  "blog.made": "made the blog",
  "blog.changed": "changed the blog",
  "blog.appearance_changed": "changed the look of the blog",
  "languages.changed": "changed the languages of",
  "keeping.changed": "changed the retention of",
  "blog_file.brought_in": "brought a file into",
  "editions.wanted": "asked for editions of posts of",
  "editions.anew": "made an edition again of",
  "editions.stopped": "stopped making editions of",
  "offers.changed": "changed the shops and partner links of",
  "offer.price_taken": "took over the price of",
  "offer.price_refused": "refused the price of",
  "offer.successor": "named the successor of",
  "blog.time_zone": "set the time zone of",
  "blog.removed": "removed the blog",
  "blog.brought_back": "restored the blog",
  "campaign.made": "made the campaign",
  "campaign.rules_saved": "saved rules of",
  "campaign.renamed": "renamed the campaign",
  "campaign.schedule": "set the schedule of",
  "campaign.paused": "paused",
  "campaign.resumed": "resumed",
  "campaign.archived": "archived",
  "campaign.taken_from_archive": "restored the campaign",
  "campaign.deleted": "deleted the campaign",
  "campaign.forgotten": "let the campaign forget",
  "campaign.address": "set the mail address of",
  "category.added": "added the category",
  "category.renamed": "renamed the category",
  "category.merged": "merged a category into",
  "category.removed": "removed the category",
  "category.put_under": "moved the category",
  "tag.added": "added the tag",
  "tag.renamed": "renamed the tag",
  "tag.merged": "merged a tag into",
  "tag.removed": "removed the tag",
  "byline.added": "added the byline",
  "byline.renamed": "renamed the byline",
  "byline.merged": "merged a byline into",
  "byline.removed": "removed the byline",
  "comment.moved": "decided about the comment",
  "defaults.set": "set the defaults of",
  "defaults.cleared": "cleared the defaults of",
  "library.word_list_added": "added the word list",
  "library.word_list_changed": "changed the word list",
  "library.word_list_removed": "removed the word list",
  "library.term_table_added": "added the table",
  "library.term_table_changed": "changed the table",
  "library.term_table_removed": "removed the table",
  "pattern.kept": "kept the pattern of addresses",
  "pattern.removed": "removed the pattern of addresses",
  "picture.added": "added the picture",
  "picture.changed": "changed the picture",
  "picture.removed": "removed the picture",
  "pictures.retried": "had pictures copied again for",
  "recording.retried": "had a film or sound copied again:",
  "recording.stopped": "stopped the copy of",
  "people.invited": "invited",
  "people.invitation_taken_back": "took back the invitation of",
  "people.joined": "joined:",
  "people.role": "set the role of",
  "people.removed": "removed from the blog",
  "post.moved": "decided about the post",
  "post.edited": "edited the post",
  "post.corrected": "took over what the source corrected in",
  "post.correction_left": "left as it was, against its source,",
  "post.written": "wrote the post",
  "post.version_restored": "restored an earlier version of",
  "posts.moved": "decided about posts",
  "posts.category": "moved posts to a category",
  "posts.let_through": "let items through in",
  "posts.tags": "changed tags of posts",
  "posts.byline": "set the byline of posts",
  "posts.binned": "put posts into the bin",
  "posts.restored": "restored posts",
  "posts.replayed": "brought posts to the rules of",
  "posts.taken_back": "took back a change of posts",
  "posts.stopped": "stopped a change of posts",
  "posts.bin_emptied": "emptied the bin of",
  "takedown.made": "withdrew",
  "takedown.lifted": "allowed again",
  "view.kept": "kept the view",
  "view.removed": "removed the view",
  "replay.begun": "compared posts with the rules of",
  "change.stopped": "stopped a change of posts of",
  "apply.stopped": "stopped applying the rules of",
  "older.stopped": "stopped reading older items of",
  "texts.stopped": "stopped reading the pages of",
  "pictures.stopped": "stopped copying pictures for",
  "replay.stopped": "stopped the comparison of",
  "run.taken_back": "took back a run of",
  "campaign.again_from_nothing": "ran from nothing the campaign",
  "run.begun": "started a run of",
  "run.stopped": "stopped a run of",
  "connection.made": "made the connection",
  "service.made": "added the language service",
  "service.changed": "changed the language service",
  "service.removed": "removed the language service",
  "services.again": "asked language services again for",
  "services.stopped": "stopped asking language services for",
  "connection.changed": "changed the connection",
  "connection.signed_in": "signed in at the platform of",
  "connection.removed": "removed the connection",
  "reader.made": "made the page reader",
  "reader.changed": "changed the page reader",
  "reader.removed": "removed the page reader",
  "reader.mended": "mended the page reader",
  "feed_list.added": "brought in the list",
  "feed_list.stopped": "stopped bringing in",
  "source.added": "added the source",
  "source.changed": "changed the source",
  "source.removed": "removed the source",
  "source.access": "set how to ask",
  "source.labelled": "added a label to",
  "source.moved": "followed the move of",
  "source.older": "began to read older items of",
  "source.paused": "paused the source",
  "source.resumed": "resumed the source",
  "source.unlabelled": "took a label off",
};

export const AUDIT_KINDS = [
  { value: "-any-", label: "everything" },
  { value: "campaign", label: "campaigns" },
  { value: "run", label: "runs" },
  { value: "source", label: "sources" },
  { value: "post", label: "posts" },
  { value: "comment", label: "comments" },
  { value: "people", label: "people" },
  { value: "library", label: "the library" },
  { value: "category", label: "categories" },
  { value: "offer", label: "offers" },
  { value: "blog", label: "the blog" },
] as const;

export function actionWords(action: string): string {
  return ACTIONS[action] ?? action.replaceAll(/[._]/g, " ");
}

function scheduleShown(value: unknown): string {
  const when = (value as Partial<Schedule> | undefined)?.when;
  return when ? scheduleWords(value as Schedule) : "by hand";
}

export interface Change {
  what: string;
  before: string;
  after: string;
}

function shown(value: unknown, what = ""): string {
  if (what === "schedule") return scheduleShown(value);
  if (value === null || value === undefined || value === "") return "nothing";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "object") return JSON.stringify(value);
  return String(value);
}

function parts(value: unknown): Record<string, unknown> | null {
  return typeof value === "object" && value !== null && !Array.isArray(value)
    ? (value as Record<string, unknown>)
    : null;
}

/** Returns the changed fields with both values, or the two whole values. */
export function changesOf(before: unknown, after: unknown): Change[] {
  const [from, to] = [parts(before), parts(after)];
  if (from && to)
    return [...new Set([...Object.keys(from), ...Object.keys(to)])]
      .filter((key) => JSON.stringify(from[key]) !== JSON.stringify(to[key]))
      .map((key) => ({
        what: key.replaceAll("_", " "),
        before: shown(from[key], key),
        after: shown(to[key], key),
      }));
  if (before === null && after === null) return [];
  return [
    { what: "", before: before === null ? "" : shown(before), after: after === null ? "" : shown(after) },
  ];
}
