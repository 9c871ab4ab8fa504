import { useMemo } from "react";
import { addWordList, changeWordList, type WordListRow } from "@/api/blogs";
import type { Version } from "@/lib/editing/document";
import { KeptForm, type KeptValues } from "./KeptForm";

interface WordListFormProps {
  blog: string;
  list: WordListRow | null;
  onDone: () => void;
}

function termsIn(text: string): string[] {
  return text
    .split(/[\n,;]/)
    .map((term) => term.trim())
    .filter(Boolean);
}

/** A word list as the form shows it. */
function versionOf(list: WordListRow | null): Version<KeptValues> {
  return {
    number: list?.version ?? 0,
    value: { name: list?.name ?? "", text: list?.words.join("\n") ?? "" },
  };
}

export function WordListForm({ blog, list, onDone }: WordListFormProps) {
  const begun = useMemo(() => versionOf(list), [list]);
  return (
    <KeptForm
      blog={blog}
      listKey={list?.key ?? ""}
      begun={begun}
      label="Terms"
      hint="One a line, or parted by commas. comet* stands for all words that begin so."
      what="list"
      save={async ({ name, text }, version) => {
        const body = { name, words: termsIn(text) };
        const kept = await (list
          ? changeWordList(blog, list.key, { ...body, version })
          : addWordList(blog, body));
        return { key: kept.key, version: versionOf(kept) };
      }}
      onDone={onDone}
    />
  );
}
