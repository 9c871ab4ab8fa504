import { useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { keys } from "@/api/keys";
import { changeSource, choicesOf, type Source, type SourceChoices, sourceQuery } from "@/api/sources";
import { useMay } from "@/api/useRole";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { SaveButtons } from "@/components/editing/SaveButtons";
import { useEdited } from "@/components/editing/useEdited";
import { PageTexts } from "@/components/PageTexts";
import type { Version } from "@/lib/editing/document";
import { useTell } from "@/ui/Toasts";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import { FullTextChoice } from "./FullTextChoice";
import { RIGHTS } from "./rights";

const PAGES = [
  { value: "asked", label: "are searched for a picture" },
  { value: "left", label: "are not read" },
] as const;
const SCRIPTS = [
  { value: "left", label: "as they come" },
  { value: "run", label: "after their scripts have run" },
] as const;

function versionOf(source: Source): Version<SourceChoices> {
  return { number: source.version, value: choicesOf(source) };
}

/** The rights of the source, which override every campaign’s templates. */
export function SourceRights({ blog, source }: { blog: string; source: Source }) {
  const queries = useQueryClient();
  const tell = useTell();
  const editor = useMay()("editor");
  const edited = useEdited<SourceChoices, Source>({
    document: `source ${blog}/${source.key}`,
    saved: useMemo(() => versionOf(source), [source]),
    save: (choices, version) => changeSource(blog, source.key, { ...choices, version }),
    versionOf,
    fetchLatest: async () =>
      versionOf((await queries.fetchQuery({ ...sourceQuery(blog, source.key), staleTime: 0 })).source),
    refresh: [keys.source(blog), keys.sources(blog), keys.proof(blog)],
    onSaved: () => tell("Saved. It applies to posts made from now on."),
  });
  const draft = edited.now;
  const set = (next: Partial<SourceChoices>) => edited.edit((before) => ({ ...before, ...next }));
  const { title, right, right_words, attribution, keyword, reads_pages } = draft;
  const readsPages = reads_pages || draft.full_text_words > 0 || Boolean(source.reader);
  return (
    <section aria-label="Name and rights" className="mb-4 sheet-card overflow-hidden">
      <EditGuard edited={edited} />
      <EditNotices edited={edited} what="the source" />
      <fieldset disabled={!editor} className="as-text p-4 leading-loose">
        <WordText
          label="Name of the source"
          value={title}
          known={[]}
          placeholder="name"
          onChange={(next) => set({ title: next })}
        />{" "}
        allows posts to carry{" "}
        <WordSelect label="Right" value={right} options={RIGHTS} onChange={(next) => set({ right: next })} />
        {right === "excerpt" && (
          <>
            {" "}
            of at most{" "}
            <WordNumber
              label="Words at most"
              value={right_words}
              max={10_000}
              onChange={(words) => set({ right_words: words })}
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
          onChange={(line) => set({ attribution: line })}
        />{" "}
        under each post. The keyword of its items is{" "}
        <WordText
          label="Keyword"
          value={keyword}
          known={[]}
          placeholder="no keyword"
          onChange={(next) => set({ keyword: next })}
        />
        . The pages it links to{" "}
        <WordSelect
          label="Linked pages"
          value={reads_pages ? "asked" : "left"}
          options={PAGES}
          onChange={(value) => set({ reads_pages: value === "asked" })}
        />
        {reads_pages ? " where an item has none" : ""}, and{" "}
        <FullTextChoice blog={blog} draft={draft} onChange={set} />.
        {readsPages && (
          <>
            {" "}
            Pages are read{" "}
            <WordSelect
              label="Scripts of pages"
              value={draft.rendered ? "run" : "left"}
              options={SCRIPTS}
              onChange={(value) => set({ rendered: value === "run" })}
            />
            {draft.rendered && (
              <>
                , which may also come from{" "}
                <WordText
                  label="Other hosts"
                  value={draft.rendered_hosts.join(" ")}
                  known={[]}
                  placeholder="no other host"
                  longest={400}
                  onChange={(hosts) => set({ rendered_hosts: hosts.split(/[\s,]+/) })}
                />
              </>
            )}
            .
          </>
        )}
      </fieldset>
      {editor && (edited.changed || edited.canUndo || edited.canRedo) && (
        <div className="flex items-center justify-end gap-2 px-4 pb-3">
          <SaveButtons edited={edited} what="the source" label="Keep" valid={title.trim() !== ""} />
        </div>
      )}
      {source.full_text_words > 0 && (
        <div className="mx-4 border-t border-line2 pt-2 pb-3 leading-loose">
          <PageTexts blog={blog} source={source.key} />
        </div>
      )}
    </section>
  );
}
