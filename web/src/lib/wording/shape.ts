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
  "step.spared": () => ({ strong: "left as it is", rest: "its source allows a link only" }),
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
