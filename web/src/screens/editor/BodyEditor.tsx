import { generateHTML, generateJSON } from "@tiptap/core";
import { useState } from "react";
import { plural } from "@/lib/format";
import { Segmented } from "@/ui/Segmented";
import { EXTENSIONS } from "./extensions";
import { lost } from "./fidelity";
import { RichBody } from "./RichBody";

interface BodyEditorProps {
  blog: string;
  body: string;
  onChange: (body: string) => void;
}

type View = "text" | "source";

function losses(body: string): string[] {
  try {
    return lost(body, generateHTML(generateJSON(body, EXTENSIONS), EXTENSIONS));
  } catch {
    return ["text"];
  }
}

function words(html: string): number {
  const template = document.createElement("template");
  template.innerHTML = html.replace(
    /<(?!\/?(?:a|b|i|s|u|q|em|strong|span|code|mark|abbr|sub|sup|small)\b)/g,
    " $&",
  );
  return (template.content.textContent ?? "").split(/\s+/).filter(Boolean).length;
}

/** The body of a post, as text or source. */
export function BodyEditor({ blog, body, onChange }: BodyEditorProps) {
  // The views have a state of their own, so that another body than the one typed here begins them anew.
  const [shown, setShown] = useState({ body, round: 0 });
  if (body !== shown.body) setShown({ body, round: shown.round + 1 });
  return (
    <BodyViews
      key={shown.round}
      blog={blog}
      body={body}
      onChange={(next) => {
        setShown((before) => ({ ...before, body: next }));
        onChange(next);
      }}
    />
  );
}

/** What the text view would lose opens as source. */
function BodyViews({ blog, body, onChange }: BodyEditorProps) {
  // What the text view cannot represent opens as source.
  const [first] = useState(() => losses(body));
  const [view, setView] = useState<View>(first.length ? "source" : "text");
  const [refused, setRefused] = useState<string[]>(first);

  function choose(next: View) {
    if (next === "text") {
      const gone = losses(body);
      setRefused(gone);
      if (gone.length) return;
    }
    setView(next);
  }

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="mb-1 flex items-center gap-3">
        <span className="font-semibold">Body</span>
        <Segmented<View>
          label="View of the body"
          value={view}
          options={[
            { value: "text", label: "Text" },
            { value: "source", label: "Source" },
          ]}
          onChange={choose}
        />
        <span className="ml-auto text-xs text-ink3">{plural(words(body), "word")}</span>
      </div>
      {refused.length > 0 && view === "source" && (
        <p role="status" className="mb-1 text-xs text-ochre">
          It holds what the text view would lose ({refused.join(", ")}): edit it as source.
        </p>
      )}
      {view === "text" ? (
        <RichBody blog={blog} body={body} onChange={onChange} />
      ) : (
        <textarea
          aria-label="Source of the body"
          spellCheck={false}
          className="min-h-[320px] w-full flex-1 resize-y rounded-[7px] border border-line bg-sheet px-3 py-2 font-mono text-xs leading-relaxed"
          value={body}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </div>
  );
}
