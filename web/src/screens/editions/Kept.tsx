interface KeptProps {
  text: string;
  kept: readonly string[];
}

const SIGNS = /[.*+?^${}()|[\]\\]/g;

/** Returns a text in pieces, each with whether it is one of the words that are kept. */
export function pieces(text: string, kept: readonly string[]): [string, boolean][] {
  if (!kept.length) return [[text, false]];
  const words = kept.toSorted((one, other) => other.length - one.length);
  const pattern = new RegExp(`(${words.map((word) => word.replace(SIGNS, "\\$&")).join("|")})`, "gi");
  return text
    .split(pattern)
    .map((piece, place): [string, boolean] => [piece, place % 2 === 1])
    .filter(([piece]) => piece);
}

/** A text with the names, numbers and terms marked that must be in both languages. */
export function Kept({ text, kept }: KeptProps) {
  return pieces(text, kept).map(([piece, isKept], place) =>
    isKept ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of one text keep their order
      <mark key={place} className="rounded bg-verd-wash px-0.5 text-verd-deep">
        {piece}
      </mark>
    ) : (
      piece
    ),
  );
}
