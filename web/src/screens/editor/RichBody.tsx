import { EditorContent, useEditor } from "@tiptap/react";
import { EXTENSIONS } from "./extensions";
import { Toolbar } from "./Toolbar";

interface RichBodyProps {
  blog: string;
  body: string;
  onChange: (body: string) => void;
}

/** The body as editable text. */
export function RichBody({ blog, body, onChange }: RichBodyProps) {
  const editor = useEditor({
    extensions: EXTENSIONS,
    content: body,
    editorProps: {
      attributes: { class: "rich-body", role: "textbox", "aria-label": "Body", "aria-multiline": "true" },
    },
    // Only a person's change rewrites the HTML; otherwise it stays exactly as it was.
    onUpdate: ({ editor: changed }) => onChange(changed.isEmpty ? "" : changed.getHTML()),
  });
  return (
    <div className="flex min-h-0 flex-1 flex-col rounded-[7px] border border-line bg-sheet">
      <Toolbar blog={blog} editor={editor} />
      <EditorContent editor={editor} className="min-h-[300px] flex-1 overflow-auto px-4 py-3" />
    </div>
  );
}
