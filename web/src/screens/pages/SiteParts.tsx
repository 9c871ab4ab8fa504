import type { ArticleTest } from "@/api/pages";
import { plural } from "@/lib/format";

interface SitePartsProps {
  rows: readonly ArticleTest[];
  kept: readonly string[];
  onKeep: (kept: string[]) => void;
}

interface Part {
  key: string;
  text: string;
  words: number;
  articles: number;
}

function partsOf(rows: readonly ArticleTest[]): Part[] {
  const parts = new Map<string, Part>();
  for (const row of rows) {
    for (const { key, text, words } of row.repeated) {
      const part = parts.get(key) ?? { key, text, words: 0, articles: 0 };
      parts.set(key, { ...part, words: Math.max(part.words, words), articles: part.articles + 1 });
    }
  }
  return [...parts.values()].sort((one, other) => other.words - one.words);
}

/** What the articles of a site have in common. It is left out of each, unless a person ticks it. */
export function SiteParts({ rows, kept, onKeep }: SitePartsProps) {
  const parts = partsOf(rows);
  if (!parts.length) return null;
  return (
    <section aria-label="The site’s own parts">
      <h3 className="font-semibold">The site’s own parts</h3>
      <p className="mt-0.5 text-xs text-ink2">
        {plural(parts.length, "part")} repeat in most articles and are left out. Tick what belongs to the
        articles, and test again to see it in the text.
      </p>
      <ul className="mt-2 max-h-56 space-y-1 overflow-auto text-xs">
        {parts.map((part) => (
          <li key={part.key}>
            <label className="flex items-baseline gap-2">
              <input
                type="checkbox"
                checked={kept.includes(part.key)}
                onChange={(event) =>
                  onKeep(event.target.checked ? [...kept, part.key] : kept.filter((key) => key !== part.key))
                }
              />
              <span className="truncate">{part.text}</span>
              <span className="ml-auto whitespace-nowrap text-ink3">
                {plural(part.words, "word")} · {plural(part.articles, "article")}
              </span>
            </label>
          </li>
        ))}
      </ul>
    </section>
  );
}
