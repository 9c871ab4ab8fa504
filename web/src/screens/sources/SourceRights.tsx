import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { keys } from "@/api/keys";
import { changeSource, type Source } from "@/api/sources";
import { useMay } from "@/api/useRole";
import { Button } from "@/ui/Button";
import { useTell } from "@/ui/Toasts";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";

const PAGES = [
  { value: "asked", label: "are searched for a picture" },
  { value: "left", label: "are not read" },
] as const;
const TEXTS = [
  { value: "taken", label: "give the full text" },
  { value: "left", label: "give no text" },
] as const;
const RIGHTS = [
  { value: "full", label: "the full text" },
  { value: "excerpt", label: "an excerpt" },
  { value: "link", label: "a link only" },
] as const;

/** What the source lets others carry of its items: held over every campaign’s templates. */
export function SourceRights({ blog, source }: { blog: string; source: Source }) {
  const queries = useQueryClient();
  const tell = useTell();
  const editor = useMay()("editor");
  const [draft, setDraft] = useState(source);
  const { title, right, right_words, attribution, keyword, reads_pages, full_text_words } = draft;
  const changed =
    title !== source.title ||
    right !== source.right ||
    right_words !== source.right_words ||
    attribution !== source.attribution ||
    keyword !== source.keyword ||
    reads_pages !== source.reads_pages ||
    full_text_words !== source.full_text_words;
  const saving = useMutation({
    mutationFn: () =>
      changeSource(blog, source.key, {
        title,
        right,
        right_words,
        attribution,
        keyword,
        reads_pages,
        full_text_words,
      }),
    onSuccess: () => {
      for (const key of [keys.source, keys.sources, keys.proof])
        queries.invalidateQueries({ queryKey: key(blog) });
      tell("Saved. It applies to posts made from now on.");
    },
    onError: (error) => tell(error.message, { tone: "bad" }),
  });
  return (
    <section aria-label="Name and rights" className="mb-4 sheet-card p-4 leading-loose">
      <WordText
        label="Name of the source"
        value={title}
        known={[]}
        placeholder="name"
        onChange={(next) => setDraft({ ...draft, title: next })}
      />{" "}
      allows posts to carry{" "}
      <WordSelect
        label="Right"
        value={right}
        options={RIGHTS}
        onChange={(next) => setDraft({ ...draft, right: next })}
      />
      {right === "excerpt" && (
        <>
          {" "}
          of at most{" "}
          <WordNumber
            label="Words at most"
            value={right_words}
            max={10_000}
            onChange={(words) => setDraft({ ...draft, right_words: words })}
          />{" "}
          words
        </>
      )}
      , with the line{" "}
      <WordText
        label="Attribution line"
        value={attribution}
        known={[]}
        placeholder="no line"
        longest={300}
        onChange={(line) => setDraft({ ...draft, attribution: line })}
      />{" "}
      under each post. The keyword of its items is{" "}
      <WordText
        label="Keyword"
        value={keyword}
        known={[]}
        placeholder="no keyword"
        onChange={(next) => setDraft({ ...draft, keyword: next })}
      />
      . The pages it links to{" "}
      <WordSelect
        label="Linked pages"
        value={reads_pages ? "asked" : "left"}
        options={PAGES}
        onChange={(value) => setDraft({ ...draft, reads_pages: value === "asked" })}
      />
      {reads_pages ? " where an item has none" : ""}, and{" "}
      <WordSelect
        label="Full text"
        value={full_text_words ? "taken" : "left"}
        options={TEXTS}
        onChange={(value) => setDraft({ ...draft, full_text_words: value === "taken" ? 50 : 0 })}
      />
      {full_text_words > 0 && (
        <>
          {" "}
          where the page has at least{" "}
          <WordNumber
            label="Words more"
            value={full_text_words}
            max={100_000}
            onChange={(words) => setDraft({ ...draft, full_text_words: words })}
          />{" "}
          words more than the feed
        </>
      )}
      .
      {changed && editor && (
        <Button
          small
          look="primary"
          className="ml-3"
          busy={saving.isPending}
          disabled={!title.trim()}
          onClick={() => saving.mutate()}
        >
          Keep
        </Button>
      )}
    </section>
  );
}
