import { useQuery } from "@tanstack/react-query";
import { postValuesQuery } from "@/api/posts";
import type { Decision } from "@/api/proofs";
import { sideBySide } from "@/lib/side-by-side";

const SHOWN = 12;
const LEAST = 4;

function plain(html: string): string {
  const template = document.createElement("template");
  template.innerHTML = html.replace(/<(?=\/(?:p|div|li|h[1-6]|blockquote|tr|figcaption)>)|<br/g, "\n$&");
  return (template.content.textContent ?? "").trim();
}

/** The parts of the source's text that were removed from the post. */
export function TakenOut({ blog, id, decision }: { blog: string; id: number; decision: Decision }) {
  const values = useQuery(postValuesQuery(blog, id));
  const source = decision.item.text || decision.item.summary;
  if (!values.data || !source) return null;
  const gone = sideBySide(source, plain(values.data.body))
    .before.filter(({ text, differs }) => differs && text.trim().length >= LEAST)
    .map(({ text }) => text.trim());
  return (
    <section aria-label="Taken out" className="mt-4">
      <h3 className="font-semibold">Taken out</h3>
      {gone.length === 0 && <p className="text-xs text-ink3">The whole text of the source is there.</p>}
      <ul className="space-y-1 text-xs">
        {gone.slice(0, SHOWN).map((text, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the same words can be taken out twice
          <li key={place}>
            <del className="line-clamp-3 text-madder">{text}</del>
          </li>
        ))}
      </ul>
      {gone.length > SHOWN && <p className="text-xs text-ink3">and {gone.length - SHOWN} more parts</p>}
    </section>
  );
}
