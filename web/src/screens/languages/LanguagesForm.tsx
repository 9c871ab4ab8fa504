import { useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { faultAt } from "@/api/client";
import {
  type BlogLanguage,
  type LanguageDocument,
  type Languages,
  languagesQuery,
  saveLanguages,
} from "@/api/editions";
import { keys } from "@/api/keys";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { ON_SCREEN, SaveButtons } from "@/components/editing/SaveButtons";
import { useEdited } from "@/components/editing/useEdited";
import { Part } from "@/components/Part";
import type { Version } from "@/lib/editing/document";
import { languageName } from "@/lib/languages";
import { useTell } from "@/ui/Toasts";
import { AddLanguage } from "./AddLanguage";
import { LanguageCard } from "./LanguageCard";
import { OwnWords } from "./OwnWords";

function versionOf({ version, document }: Languages): Version<LanguageDocument> {
  return { number: version, value: document };
}

/** The languages of a blog beside its usual one, edited together. */
export function LanguagesForm({ blog, languages }: { blog: string; languages: Languages }) {
  const tell = useTell();
  const queries = useQueryClient();
  const edited = useEdited<LanguageDocument, Languages>({
    document: `languages ${blog}`,
    saved: useMemo(() => versionOf(languages), [languages]),
    save: (document, version) => saveLanguages(blog, document, version),
    versionOf,
    fetchLatest: async () => versionOf(await queries.fetchQuery({ ...languagesQuery(blog), staleTime: 0 })),
    refresh: [keys.languages(blog), keys.blog(blog)],
    onSaved: () => tell("Saved. The pages of the blog follow at once."),
  });
  const { now, error } = edited;
  const set = (next: BlogLanguage[]) => edited.edit((before) => ({ ...before, languages: next }));
  return (
    <form
      className="mx-auto max-w-3xl space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        edited.save();
      }}
    >
      <EditGuard edited={edited} />
      <EditNotices edited={edited} what="the languages" fields={["languages", "words"]} />
      <p className="text-ink2">
        The usual language is <b>{languageName(languages.usual)}</b>. Each other one has pages of its own,
        with the posts that are in it. An <i>edition</i> is a post in another language: a campaign makes them
        (<i>Release</i>), or you ask for them at a post or at many.
      </p>
      <Part
        title={`${languageName(languages.usual)} (${languages.usual})`}
        text="The usual language of the blog."
      >
        <OwnWords
          language={languages.usual}
          words={now.words ?? {}}
          onChange={(words) => edited.edit((before) => ({ ...before, words }))}
        />
        {faultAt(error, "document.words", true) && (
          <p role="alert" className="text-madder text-xs">
            {faultAt(error, "document.words", true)}
          </p>
        )}
      </Part>
      {now.languages.map((language, place) => (
        <LanguageCard
          key={language.tag}
          blog={blog}
          language={language}
          editions={languages.counts.find(({ language: tag }) => tag === language.tag)?.editions ?? {}}
          fault={faultAt(error, `document.languages.${place}`, true)}
          onChange={(next) => set(now.languages.with(place, next))}
          onRemove={() => set(now.languages.toSpliced(place, 1))}
        />
      ))}
      <AddLanguage
        usual={languages.usual}
        taken={now.languages.map(({ tag }) => tag)}
        onAdd={(tag) =>
          set([
            ...now.languages,
            {
              tag,
              title: "",
              tagline: "",
              services: [],
              glossary: [],
              names: null,
              follows: true,
              note: "",
              note_place: "end",
              words: {},
            },
          ])
        }
      />
      {faultAt(error, "document.languages") && (
        <p role="alert" className="text-madder text-xs">
          {faultAt(error, "document.languages")}
        </p>
      )}
      <div className="flex items-center justify-end gap-2">
        <SaveButtons edited={edited} what="the languages" keys={ON_SCREEN} />
      </div>
    </form>
  );
}
