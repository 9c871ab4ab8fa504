import type { Place } from "@/lib/editing/both-sides";
import { plural } from "@/lib/format";

const LONGEST = 160;

function short(text: string): string {
  return text.length > LONGEST ? `${text.slice(0, LONGEST)}…` : text || "nothing";
}

/** What two people have made of one version, side by side. */
export function BothSides({ places }: { places: readonly Place[] }) {
  return (
    <details className="text-xs text-ink2">
      <summary className="cursor-pointer">{plural(places.length, "place")} changed by either of you</summary>
      <div className="max-h-44 overflow-auto py-1">
        <table className="w-full table-fixed text-left align-top">
          <thead>
            <tr>
              <th className="w-1/4 font-medium">Where</th>
              <th className="font-medium">Before</th>
              <th className="font-medium">Theirs</th>
              <th className="font-medium">Mine</th>
            </tr>
          </thead>
          <tbody>
            {places.map(({ path, before, theirs, mine }) => (
              <tr key={path} className="border-t border-line2 align-top">
                <th className="pr-2 font-normal break-words">{path.replaceAll("_", " ")}</th>
                <td className="pr-2 break-words">{short(before)}</td>
                <td className="pr-2 break-words text-verd">
                  {theirs === null ? "as before" : short(theirs)}
                </td>
                <td className="break-words text-plum">{mine === null ? "as before" : short(mine)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
