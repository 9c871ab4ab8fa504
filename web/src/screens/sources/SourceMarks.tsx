import type { Source } from "@/api/sources";
import { Pill } from "@/ui/Pill";

/** Unusual traits of a source: labels, paused, an untrusted certificate. */
export function SourceMarks({ source }: { source: Source }) {
  return (
    <>
      {source.labels.map((label) => (
        <span key={label} className="mr-1 rounded bg-sunk px-1.5 text-[11px] text-ink2">
          {label}
        </span>
      ))}
      {!source.right_said && <Pill tone="ochre">Rights not said</Pill>}
      {source.in_doubt && <Pill tone="madder">Layout has changed</Pill>}
      {source.paused && source.format !== "Single pages" && <Pill tone="ochre">Paused</Pill>}
      {source.any_certificate && <Pill tone="madder">Any certificate</Pill>}
    </>
  );
}
