import type { Schemas } from "@/api/client";

type Text = Schemas["TextField"];
type Amount = Schemas["Amount"];

function options<T extends string>(names: Record<T, string>): readonly { value: T; label: string }[] {
  return (Object.keys(names) as T[]).map((value) => ({ value, label: names[value] }));
}

const TEXT_NAMES: Record<Text, string> = {
  title_or_text: "Title or text",
  title: "Title",
  text: "Text",
  summary: "Summary",
  author: "Author",
  source: "Source",
  categories: "Category of the source",
  hashtags: "Hashtag",
  link: "Link",
  host: "Host of the link",
  language: "Language",
  licence: "Licence",
  custom: "Field of its own",
};
const AMOUNT_NAMES: Record<Amount, string> = {
  words: "Word count",
  title_words: "Words in the title",
  pictures: "Number of pictures",
  rating: "Rating",
  views: "Views",
  length: "Length in seconds",
  price: "Price",
  custom: "Field of its own",
};
export const TEXTS = options(TEXT_NAMES);
export const AMOUNTS = options(AMOUNT_NAMES);
export const VALUE_FIELDS = TEXTS.filter(
  ({ value }) => !["title_or_text", "text", "summary"].includes(value),
);
export const UNKNOWNS = [
  { value: "fails", label: "fails" },
  { value: "passes", label: "passes" },
] as const;
