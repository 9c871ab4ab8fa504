import { useMemo } from "react";
import type { ComparedPart } from "@/api/blog-file";
import { Differences } from "@/components/Differences";
import { differences } from "@/lib/document-diff";
import { plural } from "@/lib/format";
import { canCome, KINDS } from "./words";

interface PartRowProps {
  part: ComparedPart;
  chosen: boolean;
  onChoose: (on: boolean) => void;
}

/** One part of a file: what it is, what would change, and whether it comes. */
export function PartRow({ part, chosen, onChoose }: PartRowProps) {
  const changes = useMemo(
    () => (part.state === "changed" ? differences(part.before, part.after) : []),
    [part],
  );
  return (
    <li className="border-t border-line2 px-5 py-2 first:border-0">
      <div className="flex items-baseline gap-3">
        {canCome(part) ? (
          <label className="flex items-baseline gap-2 font-medium">
            <input type="checkbox" checked={chosen} onChange={(event) => onChoose(event.target.checked)} />
            {part.name}
          </label>
        ) : (
          <span className="font-medium">{part.name}</span>
        )}
        <span className="text-xs text-ink3">
          {KINDS[part.kind]} · <span className="font-mono">{part.key}</span>
        </span>
      </div>
      {part.fault && <p className="mt-0.5 text-xs text-madder">{part.fault}</p>}
      {changes.length > 0 && (
        <details className="mt-1">
          <summary className="cursor-pointer text-xs font-medium text-verd">
            {plural(changes.length, "difference")}
          </summary>
          <div className="mt-1 max-h-60 overflow-auto rounded-md bg-chalk p-2">
            <Differences differences={changes} />
          </div>
        </details>
      )}
    </li>
  );
}
