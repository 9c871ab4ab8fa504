import { moment } from "../format";
import { type Data, given, list, text, type Wordings } from "./data";

const DATES: Record<string, string> = {
  original: "its own date",
  import: "date of the run",
  a_day: "next free place of the day",
  between: "spread between two moments",
  random: "drawn at random",
};

function givenWords(data: Data): string {
  const said = given(data, "given").map(({ name, because }) =>
    because && because.toLowerCase() !== name.toLowerCase() ? `${name} (for ${because})` : name,
  );
  return said.join(", ");
}

function placement(data: Data): string {
  const parts = [];
  if (data.fell_back) parts.push("the usual one: no rule found another");
  const tags = list(data, "tags");
  if (tags.length) parts.push(`tags ${tags.join(", ")}`);
  if (text(data, "byline")) parts.push(`byline ${text(data, "byline")}`);
  const from = data.in_future
    ? "its own date is in the future"
    : (DATES[text(data, "date_from")] ?? text(data, "date_from"));
  const date = text(data, "date");
  parts.push(date ? `dated ${moment(date)} (${from})` : from);
  const visibility = text(data, "visibility");
  if (visibility && visibility !== "public")
    parts.push(visibility === "phrase" ? "with a pass phrase" : "private");
  return parts.join(" · ");
}

/** Place. */
export const PLACE: Wordings = {
  "category.given": ({ data }) => ({ strong: "category", rest: givenWords(data) }),
  "category.nothing": () => ({ strong: "", rest: "no category by this rule" }),
  "tags.given": ({ data }) => ({ strong: "tags", rest: givenWords(data) }),
  "tags.nothing": () => ({ strong: "", rest: "no tag by this rule" }),
  placed: ({ data }) => ({ strong: text(data, "category") || "no category", rest: placement(data) }),
};
