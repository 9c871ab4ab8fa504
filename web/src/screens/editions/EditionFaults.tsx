import type { Edition } from "@/api/editions";
import { plural } from "@/lib/format";
import { TEXT_FAULTS } from "@/lib/wording/shape";

/** The blocks of an edition that no service could say, with the fault of the last answer. Nothing where there are none. */
export function EditionFaults({ faults }: Pick<Edition, "faults">) {
  if (!faults.length) return null;
  return (
    <details className="text-xs text-ink2">
      <summary className="cursor-pointer">
        {plural(faults.length, "block stays in the first language", "blocks stay in the first language")}
      </summary>
      <ul className="mt-1 list-disc pl-4">
        {faults.map(({ fault, text }, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two blocks may be the same
          <li key={place}>
            {TEXT_FAULTS[fault] ?? fault}
            {text && `: “${text}”`}
          </li>
        ))}
      </ul>
    </details>
  );
}
