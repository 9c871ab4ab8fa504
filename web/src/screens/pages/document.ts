import type { FieldReader, ListPage, ReaderDocument, Way } from "@/api/pages";

/** The target of picking: a part of the list page, or a field of the article. */
export interface Target {
  page: "list" | "article";
  name: string;
}

export const LIST_FIELDS = ["title", "date", "picture", "price", "excerpt"] as const;
export const ARTICLE_FIELDS = [
  "title",
  "text",
  "date",
  "author",
  "picture",
  "tags",
  "description",
  "price",
] as const;

const NAMES: Record<string, string> = {
  link: "Article link",
  next: "Next page",
  next_part: "Next part of the article",
  title: "Title",
  date: "Date",
  picture: "Picture",
  price: "Price",
  excerpt: "Excerpt",
  text: "Text",
  author: "Author",
  tags: "Tags",
  description: "Description",
  remove: "Left out of the text",
};

/** The name of a part on the screen; a custom field has its own name. */
export function partName(name: string): string {
  return NAMES[name] ?? name;
}

export function way(selector: string): Way {
  return { kind: "selector", selector, take: "text", attribute: "", pattern: "", format: "" };
}

const BY_BUILD: Way[] = [
  { kind: "stated", selector: "", take: "text", attribute: "", pattern: "", format: "" },
  { kind: "found", selector: "", take: "text", attribute: "", pattern: "", format: "" },
];

export const EMPTY_LIST: ListPage = { link: "", data: null, fields: [], next: "", pattern: "", pages: 1 };

export function newDocument(url: string): ReaderDocument {
  return {
    version: 1,
    url,
    list_page: EMPTY_LIST,
    sections: [],
    article: {
      fields: ["title", "text", "date", "author", "picture", "tags", "description"].map((name) => ({
        name,
        ways: BY_BUILD,
      })),
      remove: [],
      keep: [],
      next_part: "",
    },
    at_most: 20,
    since: null,
  };
}

function fieldsOf(document: ReaderDocument, page: Target["page"]): readonly FieldReader[] {
  return page === "list" ? document.list_page.fields : document.article.fields;
}

/** The present selector of a part; none where stated data or structure finds it. */
export function selectorOf(document: ReaderDocument, { page, name }: Target): string {
  if (page === "list" && (name === "link" || name === "next")) return document.list_page[name];
  if (page === "article" && name === "next_part") return document.article.next_part;
  if (page === "article" && name === "remove") return document.article.remove.join(", ");
  const field = fieldsOf(document, page).find((one) => one.name === name);
  return field?.ways.find(({ kind }) => kind === "selector")?.selector ?? "";
}

/** The way of a field that has a selector; none for others. */
export function wayOf(document: ReaderDocument, { page, name }: Target): Way | null {
  const field = fieldsOf(document, page).find((one) => one.name === name);
  return field?.ways.find(({ kind }) => kind === "selector") ?? null;
}

/** The document with another way for a field's selector. */
export function withWay(document: ReaderDocument, target: Target, change: Partial<Way>): ReaderDocument {
  const changed = fieldsOf(document, target.page).map((field) =>
    field.name === target.name
      ? { ...field, ways: field.ways.map((way) => (way.kind === "selector" ? { ...way, ...change } : way)) }
      : field,
  );
  return target.page === "list"
    ? { ...document, list_page: { ...document.list_page, fields: changed } }
    : { ...document, article: { ...document.article, fields: changed } };
}

/** The document with another selector for a part. An empty one removes a list field and leaves an article field its other ways. */
export function withSelector(
  document: ReaderDocument,
  { page, name }: Target,
  selector: string,
): ReaderDocument {
  if (page === "list" && (name === "link" || name === "next")) {
    return { ...document, list_page: { ...document.list_page, [name]: selector } };
  }
  if (page === "article" && name === "next_part") {
    return { ...document, article: { ...document.article, next_part: selector } };
  }
  if (page === "article" && name === "remove") {
    return { ...document, article: { ...document.article, remove: selector ? [selector] : [] } };
  }
  const fields = [...fieldsOf(document, page)];
  const place = fields.findIndex((field) => field.name === name);
  const others = (fields[place]?.ways ?? (page === "article" ? BY_BUILD : [])).filter(
    ({ kind }) => kind !== "selector",
  );
  const before = fields[place]?.ways.find(({ kind }) => kind === "selector");
  const ways = selector ? [{ ...way(selector), ...before, selector }, ...others] : others;
  const field = { name, ways };
  if (!ways.length) fields.splice(place, place >= 0 ? 1 : 0);
  else if (place >= 0) fields[place] = field;
  else fields.push(field);
  return page === "list"
    ? { ...document, list_page: { ...document.list_page, fields } }
    : { ...document, article: { ...document.article, fields } };
}

/** Whether one element is meant, not the same position in every block. */
export function isSingle({ page, name }: Target): boolean {
  return name === "next" || (page === "article" && name !== "tags");
}
