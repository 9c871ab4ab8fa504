import { useQuery } from "@tanstack/react-query";
import { blogQuery } from "@/api/blogs";
import type { BlogLanguage } from "@/api/editions";
import { Part } from "@/components/Part";
import { ServiceWords } from "@/components/words/ServiceWords";
import { editionCounts } from "@/lib/edition-words";
import { languageName } from "@/lib/languages";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { Field, inputLook } from "@/ui/Field";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import { WordToggle } from "@/ui/WordToggle";
import { OwnWords } from "./OwnWords";

interface LanguageCardProps {
  blog: string;
  language: BlogLanguage;
  editions: Partial<Record<string, number>>;
  fault?: string | undefined;
  onChange: (language: BlogLanguage) => void;
  onRemove: () => void;
}

const FOLLOWS = [
  { value: "yes", label: "follows by itself, unless people have edited it" },
  { value: "no", label: "waits until you bring it up to date" },
] as const;
const NOTE_PLACES = [
  { value: "begin", label: "above its text" },
  { value: "end", label: "below its text" },
] as const;
const NONE = "-none-";

/** One language: what the blog is called in it, and how editions are made. */
export function LanguageCard({ blog, language, editions, fault, onChange, onRemove }: LanguageCardProps) {
  const tables = useQuery(blogQuery(blog)).data?.term_tables ?? [];
  const name = languageName(language.tag);
  const set = (part: Partial<BlogLanguage>) => onChange({ ...language, ...part });
  const toggle = (key: string, on: boolean) =>
    set({ glossary: on ? [...language.glossary, key] : language.glossary.filter((other) => other !== key) });
  return (
    <Part
      title={`${name} (${language.tag})`}
      text={
        <>
          <a className="text-verd" href={`/blog/${blog}/${language.tag}/`} target="_blank" rel="noreferrer">
            /blog/{blog}/{language.tag}/
          </a>{" "}
          · {editionCounts(editions)}
        </>
      }
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <Field label="Name of the blog" hint="Empty: as in the usual language.">
          <input
            className={inputLook}
            maxLength={200}
            lang={language.tag}
            dir="auto"
            value={language.title}
            onChange={(event) => set({ title: event.target.value })}
          />
        </Field>
        <Field label="Tagline">
          <input
            className={inputLook}
            maxLength={300}
            lang={language.tag}
            dir="auto"
            value={language.tagline}
            onChange={(event) => set({ tagline: event.target.value })}
          />
        </Field>
      </div>
      <p className="mt-3 leading-8">
        Editions are translated by{" "}
        <ServiceWords
          blog={blog}
          task="translate"
          optional
          chosen={language.services}
          onChange={(services) => set({ services })}
        />
        {tables.length > 0 && (
          <>
            with the terms of{" "}
            {tables.map((table) => (
              <WordToggle
                key={table.key}
                label={table.name}
                on={language.glossary.includes(table.key)}
                onChange={(on) => toggle(table.key, on)}
              />
            ))}
            ; categories and tags are named by{" "}
            <WordSelect
              label="Table of names"
              value={language.names ?? NONE}
              options={[
                { value: NONE, label: "no table" },
                ...tables.map((table) => ({ value: table.key, label: table.name })),
              ]}
              onChange={(key) => set({ names: key === NONE ? null : key })}
            />
          </>
        )}
        ; when its original changes, an edition{" "}
        <WordSelect
          label="When the original changes"
          value={language.follows ? "yes" : "no"}
          options={FOLLOWS}
          onChange={(follows) => set({ follows: follows === "yes" })}
        />
        .
      </p>
      <p className="mt-3 leading-8">
        An edition says{" "}
        <WordText
          label="Note"
          known={[]}
          value={language.note ?? ""}
          placeholder="nothing of how it was made"
          longest={300}
          onChange={(note) => set({ note })}
        />
        {language.note && (
          <>
            {" "}
            <WordSelect
              label="Where the note stands"
              value={language.note_place ?? "end"}
              options={NOTE_PLACES}
              onChange={(note_place) => set({ note_place })}
            />
          </>
        )}
        .
      </p>
      <OwnWords language={language.tag} words={language.words ?? {}} onChange={(words) => set({ words })} />
      {fault && (
        <p role="alert" className="text-madder text-xs">
          {fault}
        </p>
      )}
      <p className="mt-2 text-right">
        <Confirm
          trigger={<Button small>Remove</Button>}
          title={`Remove ${name}?`}
          text="Its pages go once you save. Its posts stay, and are listed among those of the usual language."
          action="Remove"
          onConfirm={onRemove}
        />
      </p>
    </Part>
  );
}
