import { plural } from "../format";
import { type Data, given, list, number, text, type Wordings } from "./data";

const LEADS: Record<string, string> = {
  feed: "the feed",
  enclosure: "the enclosure",
  page: "the linked page",
  text: "the text",
  blog: "pictures of the blog",
};

function tooSmall(data: Data): string {
  const small = number(data, "too_small");
  return small ? `; ${plural(small, "picture")} too small` : "";
}

function fieldWords(data: Data): string {
  const filled = given(data, "filled").map(({ name, value }) => `${name}: ${value}`);
  const unread = given(data, "unread").map(({ name, text: words }) => `${name} cannot hold “${words}”`);
  return [...unread, ...filled].join(" · ") || "none has a value";
}

function removedAndChanged(data: Data): string {
  return `${number(data, "removed")} removed, ${number(data, "changed")} changed`;
}

/** What is wrong with the answer of a language service (core/glyptarch_core/editions/checks.py). */
export const TEXT_FAULTS: Record<string, string> = {
  empty: "it is empty",
  lines: "it has more lines",
  markup: "it has markup that the text has not",
  address: "it has an address that the text has not",
  marks: "links, pictures or code are missing",
  empty_mark: "a link has lost its words",
  order: "links have changed places",
  numbers: "a number is missing or another one",
  added_numbers: "it has a number that the text has not",
  units: "a currency or unit is missing or another one",
  fixed: "a term of the glossary is missing",
  names: "a name is missing or another one",
  short: "it is too short",
  long: "it is too long",
  cut_off: "its end is missing",
  repeated: "it repeats itself",
  untranslated: "it is not translated",
  language: "it is in another language",
  quotations: "a quotation has changed",
  unreadable: "the service’s answer could not be read",
  unreachable: "the service did not answer",
  no_service: "no service can do it",
};

function ofServices(data: Data): string {
  const done = number(data, "blocks");
  const by = list(data, "by");
  const pairs = (data.faults ?? []) as [string, string][];
  const faults = pairs.map(([fault, words]) => `“${words}”: ${TEXT_FAULTS[fault] ?? fault}`);
  const kept = number(data, "kept");
  return [
    done ? `: ${plural(done, "block")}${by.length ? ` by ${by.join(", ")}` : ""}` : "",
    number(data, "waits") ? `, ${plural(number(data, "waits"), "block")} still to come` : "",
    kept
      ? `. ${plural(kept, "block stays as it was", "blocks stay as they were")}: ${faults.join("; ")}${kept > faults.length ? ` and ${kept - faults.length} more` : ""}`
      : "",
  ].join("");
}

const PARTS: Record<string, string> = {
  title: "the title",
  excerpt: "the excerpt",
  description: "the description",
};

/** A step that can work on a text of the post says on which, and what it was before. */
function onText(words: Wordings[string]): Wordings[string] {
  return (note) => {
    const part = text(note.data, "of");
    if (!part) return words(note);
    const place = PARTS[part] ?? `the field ${part.replace("fields.", "")}`;
    return note.data.after
      ? {
          strong: words(note).strong,
          rest: `${place}: “${text(note.data, "before")}” became “${text(note.data, "after")}”`,
        }
      : { strong: words(note).strong, rest: `${place}: ${words(note).rest}` };
  };
}

/** What is wrong with lines of a table of synonyms. */
function unread(data: Data): string {
  const faults = list(data, "unread");
  return faults.length ? `; lines without effect: ${faults.join("; ")}` : "";
}

/** Shape. */
export const SHAPE: Wordings = {
  "shape.frames": ({ data }) => ({
    strong: "frames became links",
    rest: `to ${list(data, "hosts").join(", ")}; a host that the blog allows is shown as a player`,
  }),
  "step.drop_paragraphs": ({ data }) => ({
    strong: "took out",
    rest: list(data, "dropped")
      .map((part) => `“${part}”`)
      .join(", "),
  }),
  "step.select": ({ data }) => ({
    strong: data.mode === "keep" ? "kept only" : "removed",
    rest: plural(number(data, "elements"), "element"),
  }),
  "step.cut": ({ data }) => ({
    strong: `cut ${text(data, "side")}`,
    rest: `${plural(number(data, "blocks"), "paragraph")} at “${text(data, "at")}”`,
  }),
  "step.links": ({ data }) => ({ strong: "links", rest: removedAndChanged(data) }),
  "step.pictures": ({ data }) => ({ strong: "pictures", rest: removedAndChanged(data) }),
  "step.shorten": onText(({ data }) =>
    data.after
      ? { strong: "shortened", rest: `“${text(data, "before")}” became “${text(data, "after")}”` }
      : { strong: "shortened", rest: `${number(data, "kept")} of ${number(data, "words")} words` },
  ),
  "step.replace": onText(({ data }) => ({ strong: "replaced", rest: list(data, "replaced").join(", ") })),
  "step.table": onText(({ data }) => ({ strong: "replaced", rest: list(data, "replaced").join(", ") })),
  "step.standing": onText(({ data }) => ({
    strong: `added ${text(data, "side")}`,
    rest: `“${text(data, "text")}”`,
  })),
  "step.tidy": ({ data }) => ({
    strong: "tidied",
    rest: Object.entries(data)
      .map(([what, times]) => `${what} ${times}`)
      .join(", "),
  }),
  "step.reword": onText(({ data }) => ({
    strong: "reworded",
    rest: `${list(data, "replaced").join(", ")}${number(data, "times") > 12 ? ` and ${number(data, "times") - 12} more` : ""}; ${number(data, "same")} % of the three-word runs are still the same${unread(data)}`,
  })),
  "step.summarise": onText(({ data }) => ({
    strong: "summarised",
    rest: `${number(data, "kept")} of ${number(data, "words")} words`,
  })),
  "step.translate": onText(({ data }) => ({
    strong: "translated",
    rest: `from ${text(data, "from") || "an unknown language"} to ${text(data, "to")}${ofServices(data)}`,
  })),
  "step.rewrite": onText(({ data }) => ({
    strong: "rewritten",
    rest: `${data.same === undefined ? "" : `${number(data, "same")} % of the three-word runs are still the same`}${ofServices(data)}`,
  })),
  "shape.waits": ({ data }) => ({
    strong: "waits for its text",
    rest: `${plural(number(data, "blocks"), "block")} with ${plural(number(data, "characters"), "character")}, by ${list(data, "services").join(", ")}`,
  }),
  "step.spared": ({ data }) => ({
    strong: "left as it is",
    rest: data.spared === "language" ? "it is in that language already" : "its source allows a link only",
  }),
  "step.nothing": onText(({ data }) => ({ strong: "", rest: `nothing to change${unread(data)}` })),
  lead: ({ data }) => ({
    strong: "lead image",
    rest: `from ${LEADS[text(data, "from")] ?? ""}${tooSmall(data)}`,
  }),
  "lead.none": ({ data }) => ({ strong: "", rest: `no picture found${tooSmall(data)}` }),
  fields: ({ data }) => ({ strong: "fields", rest: fieldWords(data) }),
  "fields.unread": ({ data }) => ({ strong: "a field could not be read", rest: fieldWords(data) }),
  excerpt: ({ data }) => ({
    strong: "excerpt",
    rest: `${number(data, "words")} words of the ${text(data, "from")}`,
  }),
  "shape.empty": ({ data }) => ({
    strong: "empty",
    rest: data.title ? "no text is left" : "no title is left",
  }),
  "shape.failed": ({ data }) => ({
    strong: "could not be shaped",
    rest: `an unexpected error in this item (${text(data, "error")}: ${text(data, "message")})`,
  }),
  "shape.template_failed": ({ data }) => ({
    strong: "template error",
    rest: `${data.line ? `line ${text(data, "line")}, column ${text(data, "column")}: ` : ""}${text(data, "message")}`,
  }),
};
