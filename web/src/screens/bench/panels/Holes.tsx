import type { Proof } from "@/api/proofs";

const PARTS: Record<string, string> = {
  excerpt_text: "the excerpt",
  title: "the title",
  body: "the body",
  address: "the address",
  description: "the description",
};

function where(parts: readonly string[]): string {
  return parts.map((part) => PARTS[part] ?? part.replace("fields.", "the field ")).join(", ");
}

/** Variables that templates use and a source never fills, and those whose values age in a text. */
export function Holes({ holes }: { holes: Proof["holes"] }) {
  if (!holes.length) return null;
  return (
    <ul
      aria-label="Variables without a value"
      className="space-y-1 rounded-lg border border-ochre-mark/50 bg-ochre-wash px-2.5 py-2 text-xs"
    >
      {holes.map((hole) => (
        <li key={`${hole.source} ${hole.variable} ${hole.ages}`}>
          <code className="font-mono font-semibold">{hole.variable}</code>{" "}
          {hole.ages ? (
            <>
              stays in the post as it is now and will be wrong one day: write{" "}
              <code className="font-mono">{"{% offer price %}"}</code> into the body
            </>
          ) : hole.source ? (
            <>
              is always empty for <span className="font-semibold">{hole.source}</span>
            </>
          ) : (
            "does not exist"
          )}
          , and {where(hole.parts)} asks for it
        </li>
      ))}
    </ul>
  );
}
