import { type Editor, useEditorState } from "@tiptap/react";
import clsx from "clsx";
import {
  Bold,
  Code,
  Heading2,
  Heading3,
  ImagePlus,
  Italic,
  Link2,
  List,
  ListOrdered,
  type LucideIcon,
  Minus,
  Quote,
  Redo2,
  Strikethrough,
  Undo2,
} from "lucide-react";
import { useState } from "react";
import { ChoosePicture } from "@/screens/media/ChoosePicture";
import { LinkDialog } from "./LinkDialog";

interface Tool {
  name: string;
  Icon: LucideIcon;
  on?: boolean;
  off?: boolean;
  press: () => void;
}

/** Formats for the text under the cursor. */
export function Toolbar({ blog, editor }: { blog: string; editor: Editor }) {
  const [asks, setAsks] = useState<"link" | "picture" | null>(null);
  const state = useEditorState({
    editor,
    selector: ({ editor: now }) => ({
      bold: now.isActive("bold"),
      italic: now.isActive("italic"),
      strike: now.isActive("strike"),
      code: now.isActive("code"),
      link: now.isActive("link"),
      h2: now.isActive("heading", { level: 2 }),
      h3: now.isActive("heading", { level: 3 }),
      list: now.isActive("bulletList"),
      numbers: now.isActive("orderedList"),
      quote: now.isActive("blockquote"),
      undo: now.can().undo(),
      redo: now.can().redo(),
    }),
  });
  const chain = () => editor.chain().focus();
  const tools: Tool[] = [
    { name: "Bold", Icon: Bold, on: state.bold, press: () => chain().toggleBold().run() },
    { name: "Italic", Icon: Italic, on: state.italic, press: () => chain().toggleItalic().run() },
    { name: "Struck out", Icon: Strikethrough, on: state.strike, press: () => chain().toggleStrike().run() },
    { name: "Code", Icon: Code, on: state.code, press: () => chain().toggleCode().run() },
    { name: "Link", Icon: Link2, on: state.link, press: () => setAsks("link") },
    { name: "Heading", Icon: Heading2, on: state.h2, press: () => chain().toggleHeading({ level: 2 }).run() },
    {
      name: "Smaller heading",
      Icon: Heading3,
      on: state.h3,
      press: () => chain().toggleHeading({ level: 3 }).run(),
    },
    { name: "List", Icon: List, on: state.list, press: () => chain().toggleBulletList().run() },
    {
      name: "Numbered list",
      Icon: ListOrdered,
      on: state.numbers,
      press: () => chain().toggleOrderedList().run(),
    },
    { name: "Quotation", Icon: Quote, on: state.quote, press: () => chain().toggleBlockquote().run() },
    { name: "Line", Icon: Minus, press: () => chain().setHorizontalRule().run() },
    { name: "Picture", Icon: ImagePlus, press: () => setAsks("picture") },
    { name: "Undo", Icon: Undo2, off: !state.undo, press: () => chain().undo().run() },
    { name: "Redo", Icon: Redo2, off: !state.redo, press: () => chain().redo().run() },
  ];
  return (
    <div role="toolbar" aria-label="Text" className="flex flex-wrap gap-0.5 border-b border-line2 px-2 py-1">
      {tools.map(({ name, Icon, on, off, press }) => (
        <button
          key={name}
          type="button"
          aria-label={name}
          title={name}
          aria-pressed={on}
          disabled={off}
          className={clsx(
            "inline-flex size-7 items-center justify-center rounded hover:bg-sunk disabled:opacity-40",
            on && "bg-verd-wash text-verd-deep",
          )}
          onClick={press}
        >
          <Icon size={15} aria-hidden="true" />
        </button>
      ))}
      {asks === "link" && (
        <LinkDialog
          address={String(editor.getAttributes("link").href ?? "")}
          onClose={() => setAsks(null)}
          onChosen={(href) => {
            setAsks(null);
            const marked = chain().extendMarkRange("link");
            if (href) marked.setLink({ href }).run();
            else marked.unsetLink().run();
          }}
        />
      )}
      {asks === "picture" && (
        <ChoosePicture
          blog={blog}
          onClose={() => setAsks(null)}
          onChosen={({ url, alt }) => {
            setAsks(null);
            chain().setImage({ src: url, alt }).run();
          }}
        />
      )}
    </div>
  );
}
