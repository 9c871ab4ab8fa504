import type { EditionTexts } from "@/api/editions";
import { languageName } from "@/lib/languages";
import { BlockRow } from "./BlockRow";

/** An original and its edition, block by block. */
export function BothTexts({ texts }: { texts: EditionTexts }) {
  return (
    <>
      {!texts.side_by_side && (
        <p className="mb-3 rounded-md bg-ochre-wash p-2 text-xs">
          The two texts have other blocks now, so they stand one below the other.
        </p>
      )}
      <table className="w-full table-fixed border-collapse">
        <thead>
          <tr className="text-left text-xs text-ink3">
            <th scope="col" className="w-24 p-2 font-medium">
              Part
            </th>
            <th scope="col" className="p-2 font-medium">
              Original
            </th>
            <th scope="col" className="p-2 font-medium">
              {languageName(texts.language)}
            </th>
          </tr>
        </thead>
        <tbody>
          {texts.blocks.map((block, place) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two blocks may be the same
            <BlockRow key={place} block={block} language={texts.language} direction={texts.direction} />
          ))}
        </tbody>
      </table>
    </>
  );
}
