import type { Item } from "@/api/proofs";
import { moment } from "@/lib/format";

function rows(item: Item): [string, string][] {
  return [
    ["Title", item.title],
    ["Link", item.link],
    ["Identity", item.identity],
    ["Authors", item.authors.join(", ")],
    ["Categories", item.categories.join(", ")],
    ["Published", item.published ? moment(item.published) : ""],
    ["Updated", item.updated ? moment(item.updated) : ""],
    ["Captured", moment(item.captured_at)],
    ["Language", item.language_found ? `${item.language} (found by its text)` : item.language],
    ["Words", String(item.words)],
    ["Passed on from", item.credit],
    ["Media", item.media.map((medium) => `${medium.kind} (${medium.origin}) ${medium.url}`).join("\n")],
    ["Summary", item.summary],
    // Other stated values, under the names that rules and templates use.
    ...Object.entries(item.facts),
  ];
}

/** The fields of a captured item; unfilled ones say so. */
export function Fields({ item }: { item: Item }) {
  return (
    <dl className="grid grid-cols-[96px_1fr] gap-x-3 gap-y-1.5">
      {rows(item).map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-ink3">{name}</dt>
          <dd className="min-w-0 whitespace-pre-line [overflow-wrap:anywhere]">
            {value || <span className="text-ink3">not given</span>}
          </dd>
        </div>
      ))}
    </dl>
  );
}
