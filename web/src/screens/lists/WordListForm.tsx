import { addWordList, changeWordList, type WordListRow } from "@/api/blogs";
import { KeptForm } from "./KeptForm";

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

export function WordListForm({ blog, list, onDone }: WordListFormProps) {
  return (
    <KeptForm
      blog={blog}
      begun={{ name: list?.name ?? "", text: list?.words.join("\n") ?? "" }}
      label="Terms"
      hint="One a line, or parted by commas. comet* stands for all words that begin so."
      what="list"
      save={({ name, text }) => {
        const body = { name, words: termsIn(text) };
        return list ? changeWordList(blog, list.key, body) : addWordList(blog, body);
      }}
      onDone={onDone}
    />
  );
}
