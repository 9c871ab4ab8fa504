import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { wordingsQuery } from "@/api/editions";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { plural } from "@/lib/format";
import { inputLook } from "@/ui/Field";

interface OwnWordsProps {
  language: string;
  words: Record<string, string>;
  onChange: (words: Record<string, string>) => void;
}

/** The wordings of the blog's pages in a language, each with a field for one of the blog's own. */
export function OwnWords({ language, words, onChange }: OwnWordsProps) {
  const [open, setOpen] = useState(false);
  const [search, setSearch] = useState("");
  const found = useQuery({ ...wordingsQuery(language), enabled: open });
  const wanted = search.trim().toLowerCase();
  const rows = (found.data ?? []).filter(
    ({ english, usual }) =>
      !wanted || [english, usual, words[english] ?? ""].some((text) => text.toLowerCase().includes(wanted)),
  );
  const number = Object.values(words).filter(Boolean).length;
  return (
    <details className="mt-3" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer font-semibold">
        Words of the pages{" "}
        <span className="font-normal text-ink3">
          {number ? `${plural(number, "word")} of the blog’s own` : "all as usual"}
        </span>
      </summary>
      {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
      {open && found.isPending && <Loading what="the words" />}
      {found.data && (
        <>
          <input
            type="search"
            aria-label="Find a word"
            placeholder="Find a word"
            className={`${inputLook} mt-2`}
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
          <ul className="mt-2 max-h-80 space-y-2 overflow-auto pr-2">
            {rows.map(({ english, usual }) => (
              <li key={english} className="grid grid-cols-2 items-center gap-3">
                <span lang={language} dir="auto" title={english}>
                  {usual}
                </span>
                <input
                  aria-label={`In place of “${usual}”`}
                  className={inputLook}
                  lang={language}
                  dir="auto"
                  maxLength={500}
                  value={words[english] ?? ""}
                  onChange={(event) => onChange({ ...words, [english]: event.target.value })}
                />
              </li>
            ))}
          </ul>
          {rows.length === 0 && <p className="mt-2 text-ink3">No word found.</p>}
        </>
      )}
    </details>
  );
}
