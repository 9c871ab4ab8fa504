import { Extension, Mark, mergeAttributes, Node } from "@tiptap/core";
import Image from "@tiptap/extension-image";
import StarterKit from "@tiptap/starter-kit";

/** Inline elements beyond those of the default editor. */
const MARKS = [
  "abbr",
  "cite",
  "dfn",
  "ins",
  "kbd",
  "mark",
  "q",
  "samp",
  "small",
  "sub",
  "sup",
  "time",
  "var",
] as const;

/** Elements that are kept whole: shown, moved and removed here, edited as source. */
export const WHOLE = ["figure", "table", "video", "audio", "picture", "dl", "details"] as const;

const inlineMarks = MARKS.map((tag) =>
  Mark.create({
    name: `inline_${tag}`,
    parseHTML: () => [{ tag }],
    renderHTML: ({ HTMLAttributes }) => [tag, mergeAttributes(HTMLAttributes), 0],
  }),
);

/** Global attributes that are kept: language, direction and title. */
const SaidOfItself = Extension.create({
  name: "saidOfItself",
  addGlobalAttributes() {
    const attribute = (name: string) => ({
      default: null,
      parseHTML: (element: HTMLElement) => element.getAttribute(name),
      renderHTML: (attributes: Record<string, unknown>) =>
        attributes[name] ? { [name]: attributes[name] } : {},
    });
    return [
      {
        types: [
          "paragraph",
          "heading",
          "blockquote",
          "listItem",
          "bulletList",
          "orderedList",
          "division",
          ...inlineMarks.map(({ name }) => name),
        ],
        attributes: { lang: attribute("lang"), dir: attribute("dir"), title: attribute("title") },
      },
    ];
  },
});

function elementOf(html: string): HTMLElement {
  const template = document.createElement("template");
  template.innerHTML = html;
  return (template.content.firstElementChild as HTMLElement | null) ?? document.createElement("div");
}

const Whole = Node.create({
  name: "whole",
  group: "block",
  atom: true,
  draggable: true,
  addAttributes: () => ({ html: { default: "", rendered: false } }),
  parseHTML: () =>
    WHOLE.map((tag) => ({
      tag,
      priority: 100,
      getAttrs: (element: HTMLElement) => ({ html: element.outerHTML }),
    })),
  renderHTML: ({ node }) => elementOf(node.attrs.html),
  addNodeView:
    () =>
    ({ node }) => {
      const dom = document.createElement("div");
      dom.className = "whole";
      dom.contentEditable = "false";
      // The server has sanitised it: see `sanitise` in the core.
      dom.append(elementOf(node.attrs.html));
      return { dom };
    },
});

const Division = Node.create({
  name: "division",
  group: "block",
  content: "block+",
  parseHTML: () => [{ tag: "div" }],
  renderHTML: ({ HTMLAttributes }) => ["div", HTMLAttributes, 0],
});

/** All elements that the editor supports. */
export const EXTENSIONS = [
  StarterKit.configure({
    heading: { levels: [1, 2, 3, 4, 5, 6] },
    link: {
      openOnClick: false,
      autolink: false,
      HTMLAttributes: { target: null, rel: null, class: null },
      protocols: ["http", "https", "mailto"],
    },
    trailingNode: false,
  }),
  Image.configure({ inline: true }).extend({
    addAttributes() {
      return { ...this.parent?.(), srcset: { default: null }, loading: { default: null } };
    },
  }),
  Whole,
  Division,
  ...inlineMarks,
  SaidOfItself,
];
