import type { Item } from "@/api/proofs";
import { price } from "@/lib/format";

/** Formats seconds as minutes and seconds. */
function length(seconds: string): string {
  const whole = Math.round(Number(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

/** The kind of an item that is more than a text: a film, a product, a question. */
function told({ facts }: Item): { kind: string; words: string[] } | null {
  if (facts.player)
    return {
      kind: "Film",
      words: [
        facts.length ? length(facts.length) : "",
        facts.views ? `${Number(facts.views).toLocaleString("en")} views` : "",
        facts.author_place ? `made in ${facts.author_place}` : "",
        facts.licence ?? "",
        facts.has_captions === "no" ? "no captions" : "",
      ],
    };
  if (facts.price)
    return {
      kind: "Product",
      words: [
        [facts.currency, price(facts.price)].filter(Boolean).join(" "),
        facts.list_price ? `instead of ${price(facts.list_price)}` : "",
        facts.availability ?? "",
        facts.rating ? `rated ${Number(facts.rating) || facts.rating}` : "",
        facts.read_from ? `from ${facts.read_from}` : "",
      ],
    };
  if (facts.answers)
    return {
      kind: "Question",
      words: [
        `${facts.answers} ${facts.answers === "1" ? "answer" : "answers"}`,
        facts.answered_by ? `best by ${facts.answered_by}` : "",
        facts.votes ? `${facts.votes} votes` : "",
      ],
    };
  return null;
}

export function ItemKind({ item }: { item: Item }) {
  const found = told(item);
  if (!found) return null;
  const picture = item.media.find(({ kind }) => kind === "picture")?.url;
  return (
    <section aria-label={found.kind} className="mt-2 flex items-center gap-3 rounded-[10px] bg-sunk p-2">
      {picture && <img src={picture} alt="" className="h-14 w-24 shrink-0 rounded object-cover" />}
      <p className="min-w-0 text-xs">
        <span className="block font-semibold">{found.kind}</span>
        <span className="block text-ink2">{found.words.filter(Boolean).join(" · ")}</span>
        {item.facts.player && (
          <a className="font-semibold text-verd" href={item.facts.player} target="_blank" rel="noreferrer">
            Open the player
          </a>
        )}
      </p>
    </section>
  );
}
