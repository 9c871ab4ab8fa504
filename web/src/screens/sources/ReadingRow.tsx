import type { Reading } from "@/api/sources";
import { bytes, milliseconds, moment } from "@/lib/format";
import { outcome, type SourceKind } from "@/lib/reading-words";
import { warningWords } from "@/lib/warnings";
import { Lozenge } from "@/ui/Lozenge";

interface ReadingRowProps {
  reading: Reading;
  kind: SourceKind;
}

/** One reading of a source. */
export function ReadingRow({ reading, kind }: ReadingRowProps) {
  return (
    <li className="border-t border-line2 px-4 py-2 first:border-0">
      <p className="flex items-center gap-2.5">
        <Lozenge kind={reading.error ? "refused" : "publish"} label={reading.error ? "failed" : "OK"} />
        <span className="w-28 text-ink3">{moment(reading.at)}</span>
        <span className={reading.error ? "text-madder" : ""}>{outcome(reading, kind)}</span>
        <span className="ml-auto text-xs text-ink3">
          {[
            reading.status > 0 && `status ${reading.status}`,
            reading.size > 0 && bytes(reading.size),
            reading.milliseconds > 0 && milliseconds(reading.milliseconds),
          ]
            .filter(Boolean)
            .join(" · ")}
        </span>
      </p>
      {reading.warnings.length > 0 && (
        <p className="pl-[148px] text-xs text-ochre">{warningWords(reading.warnings).join(" · ")}</p>
      )}
    </li>
  );
}
