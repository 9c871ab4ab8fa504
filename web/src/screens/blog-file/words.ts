import type { ComparedPart } from "@/api/blog-file";

/** What each kind of part is called, one and many. */
export const KINDS: Record<ComparedPart["kind"], string> = {
  word_list: "word list",
  term_table: "table of terms",
  reader: "page reader",
  source: "source",
  campaign: "campaign",
  defaults: "defaults",
};

/** The states of parts in the order in which they are shown, with what bringing in does. */
export const STATES: readonly { state: ComparedPart["state"]; title: string; text: string }[] = [
  {
    state: "faulty",
    title: "Cannot be brought in",
    text: "Mend it in the file, or make here what it needs.",
  },
  { state: "changed", title: "Changed", text: "The file replaces what the blog has." },
  { state: "new", title: "New", text: "The blog gets it. A new campaign comes paused." },
  { state: "same", title: "The same", text: "Nothing happens." },
  { state: "stays", title: "Only on this blog", text: "The file does not name it: it stays as it is." },
];

/** Whether a part can be chosen. */
export function canCome({ state }: ComparedPart): boolean {
  return state === "new" || state === "changed";
}

/** What a part is known by among all of a file. */
export function nameOf({ kind, key }: ComparedPart): string {
  return `${kind} ${key}`;
}
