import { autocompletion, type Completion, type CompletionContext } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { liquid } from "@codemirror/lang-liquid";
import { HighlightStyle, syntaxHighlighting } from "@codemirror/language";
import { EditorState } from "@codemirror/state";
import { EditorView, keymap } from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { useEffect, useRef } from "react";
import { OFFER_TAGS } from "@/components/template/offer-tags";
import { offsetOf } from "@/lib/template-fault";

export interface TemplateEditorProps {
  label: string;
  value: string;
  rows: number;
  fault: string | undefined;
  variables: Readonly<Record<string, string>>;
  /** Whether places for offers may stand in it. */
  takesOffers?: boolean;
  onChange: (value: string) => void;
}

const COLOURS = HighlightStyle.define([
  { tag: [tags.variableName, tags.propertyName], color: "var(--verd)" },
  { tag: [tags.keyword, tags.controlKeyword, tags.operatorKeyword], color: "var(--indigo)" },
  { tag: [tags.string, tags.number, tags.attributeValue], color: "var(--ochre)" },
  { tag: [tags.tagName, tags.attributeName, tags.angleBracket], color: "var(--ink2)" },
]);

const LOOK = EditorView.theme({
  "&": { fontSize: "11.5px", backgroundColor: "transparent" },
  "&.cm-focused": { outline: "none" },
  ".cm-content": { fontFamily: "var(--font-mono)", padding: "3px 0", caretColor: "var(--ink)" },
  ".cm-line": { padding: "0 8px" },
  ".cm-scroller": { lineHeight: "1.5" },
  ".cm-tooltip": { backgroundColor: "var(--sheet)", border: "1px solid var(--line)", borderRadius: "7px" },
  ".cm-tooltip-autocomplete ul li[aria-selected]": {
    backgroundColor: "var(--verd-wash)",
    color: "var(--ink)",
  },
  ".cm-completionDetail": { color: "var(--ink3)", fontStyle: "normal", marginLeft: "8px" },
});

const BEFORE = /(\{\{-?\s*|\{%-?\s*(?:if|unless|elsif|case|for \w+ in|assign \w+ =)\s+)?([\w.]*)$/;

const OFFER_BEFORE = /\{%-?\s*([\w ]*)$/;
const OFFERS: readonly Completion[] = Object.entries(OFFER_TAGS).map(([block, shows]) => ({
  label: `offer ${block}`,
  apply: `offer ${block} %}`,
  detail: shows,
  type: "keyword",
}));

/** Lists the places for offers after the beginning of a tag. */
export function completeOffers(context: CompletionContext) {
  const line = context.state.doc.lineAt(context.pos);
  const match = OFFER_BEFORE.exec(line.text.slice(0, context.pos - line.from));
  const word = match?.[1] ?? "";
  if (!match || !"offer ".startsWith(word.slice(0, "offer ".length))) return null;
  return { from: context.pos - word.length, options: OFFERS, validFor: /^[\w ]*$/ };
}

/** Lists variables inside braces and tags, and the braces after a first brace. */
function complete(variables: Readonly<Record<string, string>>) {
  const inside: Completion[] = Object.entries(variables).map(([name, holds]) => ({
    label: name,
    detail: holds,
    type: "variable",
  }));
  return (context: CompletionContext) => {
    const line = context.state.doc.lineAt(context.pos);
    const before = line.text.slice(0, context.pos - line.from);
    const match = BEFORE.exec(before);
    const open =
      before.lastIndexOf("{{") > before.lastIndexOf("}}") ||
      before.lastIndexOf("{%") > before.lastIndexOf("%}");
    if (!match || (!open && !context.explicit)) return null;
    const word = match[2] ?? "";
    const options = open ? inside : inside.map((one) => ({ ...one, apply: `{{ ${one.label} }}` }));
    return { from: context.pos - word.length, options, validFor: /^[\w.]*$/ };
  };
}

/** A field for a Liquid template that knows its variables and shows where a fault is. */
export default function TemplateEditor(props: TemplateEditorProps) {
  const { label, value, rows, fault, variables, takesOffers = false } = props;
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const change = useRef(props.onChange);
  const known = useRef(variables);
  change.current = props.onChange;
  known.current = variables;
  const begun = useRef(value);

  useEffect(() => {
    if (!place.current) return;
    const made = new EditorView({
      parent: place.current,
      state: EditorState.create({
        doc: begun.current,
        extensions: [
          history(),
          keymap.of([...defaultKeymap, ...historyKeymap]),
          liquid(),
          syntaxHighlighting(COLOURS),
          autocompletion({
            override: [
              (context) => (takesOffers ? completeOffers(context) : null),
              (context) => complete(known.current)(context),
            ],
            icons: false,
          }),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ "aria-label": label, spellcheck: "false" }),
          LOOK,
          EditorView.updateListener.of((update) => {
            if (update.docChanged) change.current(update.state.doc.toString());
          }),
        ],
      }),
    });
    view.current = made;
    return () => made.destroy();
  }, [label, takesOffers]);

  useEffect(() => {
    const editor = view.current;
    if (editor && editor.state.doc.toString() !== value)
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } });
  }, [value]);

  const at = fault ? offsetOf(fault, value) : null;
  return (
    <>
      <div
        ref={place}
        className={`mt-1 max-h-64 overflow-auto rounded-md border bg-chalk ${fault ? "border-madder" : "border-line focus-within:border-verd"}`}
        style={{ minHeight: `${rows * 1.45}em` }}
      />
      {at !== null && (
        <button
          type="button"
          className="text-xs font-medium text-madder underline"
          onClick={() => {
            view.current?.dispatch({ selection: { anchor: at }, scrollIntoView: true });
            view.current?.focus();
          }}
        >
          Go to the error
        </button>
      )}
    </>
  );
}
