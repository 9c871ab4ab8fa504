import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { readersQuery } from "@/api/pages";
import type { SourceChoices } from "@/api/sources";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";

const TEXTS = [
  { value: "taken", label: "give the full text" },
  { value: "left", label: "give no text" },
] as const;

interface FullTextChoiceProps {
  blog: string;
  draft: SourceChoices;
  onChange: (next: Partial<SourceChoices>) => void;
}

/** Whether items get the text of their pages, and where that text is. */
export function FullTextChoice({ blog, draft, onChange }: FullTextChoiceProps) {
  const { full_text_words, text_reader, text_selector } = draft;
  // A selector is empty while it is being typed.
  const [bySelector, setBySelector] = useState(Boolean(text_selector));
  const taken = full_text_words > 0;
  const readers = useQuery({ ...readersQuery(blog), enabled: taken }).data ?? [];
  const ways = [
    { value: "build", label: "found by how the page is built" },
    { value: "selector", label: "found at the selector" },
    ...readers.map(({ key, name }) => ({ value: `reader:${key}`, label: `read by “${name}”` })),
  ];
  const way = text_reader ? `reader:${text_reader}` : bySelector ? "selector" : "build";
  return (
    <>
      <WordSelect
        label="Full text"
        value={taken ? "taken" : "left"}
        options={TEXTS}
        onChange={(value) => onChange({ full_text_words: value === "taken" ? 50 : 0 })}
      />
      {taken && (
        <>
          ,{" "}
          <WordSelect
            label="Where the text stands"
            value={way}
            options={ways}
            onChange={(value) => {
              setBySelector(value === "selector");
              onChange({
                text_reader: value.startsWith("reader:") ? value.slice("reader:".length) : "",
                text_selector: value === "selector" ? "article" : "",
              });
            }}
          />{" "}
          {way === "selector" && (
            <>
              <WordText
                label="Selector of the text"
                value={text_selector}
                known={[]}
                placeholder="article"
                longest={500}
                onChange={(selector) => onChange({ text_selector: selector })}
              />{" "}
            </>
          )}
          where the page has at least{" "}
          <WordNumber
            label="Words more"
            value={full_text_words}
            max={100_000}
            onChange={(words) => onChange({ full_text_words: words })}
          />{" "}
          words more than the feed
        </>
      )}
    </>
  );
}
