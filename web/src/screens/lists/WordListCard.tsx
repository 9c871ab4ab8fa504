import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { removeWordList, type WordListRow } from "@/api/blogs";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { useTell } from "@/ui/Toasts";
import { WordListForm } from "./WordListForm";

export function WordListCard({ blog, list }: { blog: string; list: WordListRow }) {
  const queries = useQueryClient();
  const tell = useTell();
  const [editing, setEditing] = useState(false);
  const removing = useMutation({
    mutationFn: () => removeWordList(blog, list.key),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["blog", blog] }),
    onError: (error) => tell(error.message, { tone: "bad" }),
  });
  if (editing) return <WordListForm blog={blog} list={list} onDone={() => setEditing(false)} />;
  return (
    <section aria-label={list.name} className="rounded-[10px] border border-line bg-sheet p-4">
      <div className="flex items-center gap-3">
        <h2 className="text-[15px]">{list.name}</h2>
        <span className="text-ink3">{plural(list.words.length, "term")}</span>
        <span className="ml-auto flex gap-2">
          <Button small onClick={() => setEditing(true)}>
            Edit
          </Button>
          <Confirm
            trigger={
              <Button small look="danger">
                Remove
              </Button>
            }
            title={`Remove “${list.name}”?`}
            text={`Its ${plural(list.words.length, "term")} are lost. A list that rules still name cannot be removed.`}
            action="Remove list"
            onConfirm={() => removing.mutate()}
          />
        </span>
      </div>
      <p className="mt-2 line-clamp-3 text-ink2">{list.words.join(" · ") || "no terms"}</p>
    </section>
  );
}
