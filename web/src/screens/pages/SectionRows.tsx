import type { Section } from "@/api/pages";
import { Button } from "@/ui/Button";
import { inputLook } from "@/ui/Field";

interface SectionRowsProps {
  sections: readonly Section[];
  categories: readonly string[];
  /** Sections that the page names and that are not in the list yet. */
  found: readonly { url: string; name: string }[];
  onChange: (sections: Section[]) => void;
}

function pathOf(url: string): string {
  try {
    return new URL(url).pathname;
  } catch {
    return url;
  }
}

/** The sections to read, each with the category of its articles. */
export function SectionRows({ sections, categories, found, onChange }: SectionRowsProps) {
  const change = (place: number, part: Partial<Section>) =>
    onChange(sections.map((one, number) => (number === place ? { ...one, ...part } : one)));
  const fresh = found.filter(({ url }) => !sections.some((section) => section.url === url));
  const collect = () =>
    onChange([...sections, ...fresh.map(({ url, name }) => ({ url, name, category: "", on: true }))]);
  return (
    <section aria-label="Sections" className="rounded-[10px] border border-line bg-sheet p-3">
      <div className="flex items-center gap-2">
        <h3 className="font-semibold">Sections</h3>
        <span className="text-xs text-ink3">
          {sections.length ? `${sections.filter(({ on }) => on).length} read` : "only this page is read"}
        </span>
        {fresh.length > 0 && (
          <span className="ml-auto">
            <Button small onClick={collect}>
              Collect {fresh.length}
            </Button>
          </span>
        )}
      </div>
      <datalist id="section-categories">
        {categories.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      <ul className="mt-1.5 space-y-1">
        {sections.map((section, place) => (
          <li key={section.url} className="flex items-center gap-2 text-xs">
            <input
              type="checkbox"
              checked={section.on}
              aria-label={`Read ${section.name || pathOf(section.url)}`}
              onChange={(event) => change(place, { on: event.target.checked })}
            />
            <span
              title={section.url}
              className={section.on ? "w-24 truncate" : "w-24 truncate text-ink3 line-through"}
            >
              {section.name || pathOf(section.url)}
            </span>
            <input
              list="section-categories"
              value={section.category}
              disabled={!section.on}
              placeholder="no category"
              aria-label={`Category of ${section.name || pathOf(section.url)}`}
              onChange={(event) => change(place, { category: event.target.value })}
              className={`${inputLook} !py-0.5 text-xs`}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}
