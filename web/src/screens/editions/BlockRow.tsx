import type { EditionBlock } from "@/api/editions";
import { partName } from "@/lib/edition-words";
import { TEXT_FAULTS } from "@/lib/wording/shape";
import { Kept } from "./Kept";

interface BlockRowProps {
  block: EditionBlock;
  language: string;
  direction: string;
}

/** A block of the original beside that of its edition. */
export function BlockRow({ block, language, direction }: BlockRowProps) {
  return (
    <tr className="border-t border-line2 align-top">
      <th scope="row" className="p-2 text-left text-xs font-normal text-ink3">
        {partName(block.part)}
        {block.changed && block.before && (
          <span className="mt-1 block font-semibold text-plum">changed since</span>
        )}
        {block.fault && (
          <span className="mt-1 block text-madder">{TEXT_FAULTS[block.fault] ?? block.fault}</span>
        )}
      </th>
      <td className="p-2 leading-relaxed">
        <Kept text={block.before} kept={block.kept} />
      </td>
      <td className="p-2 leading-relaxed" lang={language} dir={direction}>
        <Kept text={block.after} kept={block.kept} />
      </td>
    </tr>
  );
}
