import type { ComparedPart } from "@/api/blog-file";
import { Button } from "@/ui/Button";
import { PartRow } from "./PartRow";
import { canCome, nameOf } from "./words";

interface StateGroupProps {
  title: string;
  text: string;
  parts: readonly ComparedPart[];
  /** The names of parts that do not come. */
  left: ReadonlySet<string>;
  /** Whether the list is shown on demand, because nothing happens to its parts. */
  folded: boolean;
  onChoose: (parts: readonly ComparedPart[], on: boolean) => void;
}

/** The parts of one state, with what bringing in does to them. */
export function StateGroup({ title, text, parts, left, folded, onChoose }: StateGroupProps) {
  const head = (
    <>
      <span className="font-semibold">
        {title} <span className="text-ink3">{parts.length}</span>
      </span>{" "}
      <span className="text-xs font-normal text-ink2">{text}</span>
    </>
  );
  const list = (
    <ul aria-label={title}>
      {parts.map((part) => (
        <PartRow
          key={nameOf(part)}
          part={part}
          chosen={!left.has(nameOf(part))}
          onChoose={(on) => onChoose([part], on)}
        />
      ))}
    </ul>
  );
  if (folded) {
    return (
      <details className="sheet-card">
        <summary className="cursor-pointer px-5 py-3">{head}</summary>
        {list}
      </details>
    );
  }
  return (
    <div className="sheet-card">
      <div className="flex items-center gap-3 border-b border-line2 px-5 py-3">
        <h2 className="text-[13px]">{head}</h2>
        {parts.length > 1 && parts.some(canCome) && (
          <span className="ml-auto flex gap-2">
            <Button small onClick={() => onChoose(parts, true)}>
              All
            </Button>
            <Button small onClick={() => onChoose(parts, false)}>
              None
            </Button>
          </span>
        )}
      </div>
      {list}
    </div>
  );
}
