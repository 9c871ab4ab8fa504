import { Plus, X } from "lucide-react";
import { useRef, useState } from "react";
import { useFocusAfter } from "./useFocusAfter";

interface WordListProps {
  label: string;
  values: readonly string[];
  added: ReadonlySet<string>;
  onChange: (values: string[]) => void;
  placeholder?: string;
  atLeastOne?: boolean;
}

function parts(text: string): string[] {
  return text
    .split(/[,;\n]/)
    .map((part) => part.trim())
    .filter(Boolean);
}

/** Words in a sentence that can be changed, taken out and added to; those in `added` are new. */
export function WordList({
  label,
  values,
  added,
  onChange,
  placeholder = "add",
  atLeastOne = false,
}: WordListProps) {
  const [editing, setEditing] = useState<number | null>(null);
  const [text, setText] = useState("");
  const skipBlur = useRef(false);
  const addButton = useRef<HTMLButtonElement>(null);
  const focusAdd = useFocusAfter(addButton);

  function begin(index: number) {
    skipBlur.current = false;
    setEditing(index);
    setText(values[index] ?? "");
  }

  function finish() {
    if (skipBlur.current) {
      skipBlur.current = false;
      return;
    }
    if (editing === null) return;
    const next = values.flatMap((value, index) => (index === editing ? parts(text) : [value]));
    if (editing === values.length) next.push(...parts(text));
    const unique = [...new Set(next)];
    if (unique.length || !atLeastOne) onChange(unique);
    setEditing(null);
    setText("");
  }

  function cancel() {
    skipBlur.current = true;
    setEditing(null);
    setText("");
  }

  const input = (
    <input
      // biome-ignore lint/a11y/noAutofocus: the person has just asked to type here
      autoFocus
      aria-label={`${label}: word`}
      value={text}
      placeholder="word or phrase"
      style={{ width: `${Math.max(13, text.length + 2)}ch` }}
      className="rounded border border-verd bg-sheet px-1.5"
      onChange={(event) => setText(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === "Enter") {
          event.preventDefault();
          focusAdd();
          finish();
        }
        if (event.key === "Escape") {
          focusAdd();
          cancel();
        }
      }}
    />
  );

  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset cannot stand inside a sentence
    <span role="group" aria-label={label} className="inline">
      {values.map((value, index) =>
        editing === index ? (
          <span key={value} className="mr-1 inline-block">
            {input}
          </span>
        ) : (
          <span
            key={value}
            className={`mr-1 mb-1 inline-flex min-h-6 max-w-full items-center [overflow-wrap:anywhere] rounded pl-1.5 font-medium ${added.has(value) ? "bg-plum-wash text-plum" : "bg-sunk"}`}
          >
            <button
              type="button"
              className="min-h-6 pr-1.5 text-left"
              onClick={() => begin(index)}
              title="Change this word"
            >
              {added.has(value) && <span className="mr-0.5">+</span>}
              {value}
            </button>
            {(values.length > 1 || !atLeastOne) && (
              <button
                type="button"
                aria-label={`Remove ${value}`}
                className="-ml-1 inline-flex size-6 items-center justify-center text-ink3 hover:text-madder"
                onClick={() => {
                  focusAdd();
                  onChange(values.filter((_, other) => other !== index));
                }}
              >
                <X size={11} />
              </button>
            )}
          </span>
        ),
      )}
      {editing === values.length ? (
        input
      ) : (
        <button ref={addButton} type="button" className="mb-1 word-slot" onClick={() => begin(values.length)}>
          <Plus size={11} /> {placeholder}
        </button>
      )}
    </span>
  );
}
