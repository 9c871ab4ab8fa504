import { moment } from "@/lib/format";
import { htmlSides, sideBySide } from "@/lib/side-by-side";
import { STATE_WORDS } from "@/lib/wording";

interface ChangedValueProps {
  name: string;
  before: unknown;
  after: unknown;
}

const NAMES: Record<string, string> = {
  lead_url: "lead image",
  lead_alt: "text of the lead image",
  slug: "address",
  pass_phrase: "pass phrase",
  canonical: "original elsewhere",
};

function textOf(name: string, value: unknown): string {
  if (value === null || value === undefined || value === "") return "";
  if (name === "state") return STATE_WORDS[value as keyof typeof STATE_WORDS] ?? String(value);
  if (name === "date") return moment(String(value));
  if (name === "fields" && Array.isArray(value))
    return value.map(({ label, value: held }) => `${label}: ${held}`).join("\n");
  if (Array.isArray(value)) return value.map(String).join(", ");
  if (typeof value === "boolean") return value ? "yes" : "no";
  return String(value);
}

/** One value before and after a change, with differing words marked. */
export function ChangedValue({ name, before, after }: ChangedValueProps) {
  const compare = name === "body" ? htmlSides : sideBySide;
  const sides = compare(textOf(name, before), textOf(name, after));
  return (
    <div>
      <dt className="font-medium text-ink2">{NAMES[name] ?? name.replaceAll("_", " ")}</dt>
      <dd className="max-h-60 overflow-auto break-words whitespace-pre-line">
        {sides.before.map((piece, place) =>
          piece.differs ? (
            // biome-ignore lint/suspicious/noArrayIndexKey: pieces have nothing but their place
            <del key={place} className="bg-madder-wash text-madder">
              {piece.text}
            </del>
          ) : null,
        )}
        {sides.before.some(({ differs }) => differs) && " "}
        {sides.after.map((piece, place) =>
          piece.differs ? (
            // biome-ignore lint/suspicious/noArrayIndexKey: pieces have nothing but their place
            <ins key={place} className="bg-verd-wash text-verd-deep no-underline">
              {piece.text}
            </ins>
          ) : (
            // biome-ignore lint/suspicious/noArrayIndexKey: pieces have nothing but their place
            <span key={place} className="text-ink3">
              {piece.text.length > 160 ? `${piece.text.slice(0, 70)} … ${piece.text.slice(-70)}` : piece.text}
            </span>
          ),
        )}
      </dd>
    </div>
  );
}
