import { removeWordList, type WordListRow } from "@/api/blogs";
import type { ListUser } from "@/api/campaigns";
import { plural } from "@/lib/format";
import { KeptCard } from "./KeptCard";
import { WordListForm } from "./WordListForm";

interface WordListCardProps {
  blog: string;
  list: WordListRow;
  users: readonly ListUser[];
  /** The terms to show: the matches of a search, or all. */
  terms: readonly string[];
}

/** A word list: its terms, and the campaigns that use it. */
export function WordListCard({ blog, list, users, terms }: WordListCardProps) {
  return (
    <KeptCard
      blog={blog}
      name={list.name}
      size={plural(list.words.length, "term")}
      what="list"
      users={users}
      file={{ text: list.words.join("\n"), ending: "txt" }}
      remove={() => removeWordList(blog, list.key)}
      form={(done) => <WordListForm blog={blog} list={list} onDone={done} />}
    >
      <p className="mt-2 line-clamp-3 text-ink2">{terms.join(" · ") || "no terms"}</p>
    </KeptCard>
  );
}
