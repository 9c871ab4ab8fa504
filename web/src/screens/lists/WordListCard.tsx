import { removeWordList, type WordListRow } from "@/api/blogs";
import { plural } from "@/lib/format";
import { KeptCard } from "./KeptCard";
import { WordListForm } from "./WordListForm";

export function WordListCard({ blog, list }: { blog: string; list: WordListRow }) {
  return (
    <KeptCard
      blog={blog}
      name={list.name}
      size={plural(list.words.length, "term")}
      what="list"
      remove={() => removeWordList(blog, list.key)}
      form={(done) => <WordListForm blog={blog} list={list} onDone={done} />}
    >
      <p className="mt-2 line-clamp-3 text-ink2">{list.words.join(" · ") || "no terms"}</p>
    </KeptCard>
  );
}
