import type { Freed, KeptRecord } from "@/api/keeping";
import { bytes, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { WordNumber } from "@/ui/WordNumber";
import { MOST_COUNTED, RECORDS } from "./records";

interface RecordRowProps {
  kept: KeptRecord;
  /** What the blog says; nothing for the usual number. */
  days: number | null;
  freed: Freed | undefined;
  onChange: (days: number | null) => void;
}

/** One kind of record: what it is, for how long it is kept, and what that frees. */
export function RecordRow({ kept, days, freed, onChange }: RecordRowProps) {
  const { title, text } = RECORDS[kept.record];
  const more = freed && freed.number >= MOST_COUNTED ? "at least " : "";
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_190px_190px] items-start gap-4 border-t border-line2 px-5 py-3.5 first:border-0">
      <div>
        <h2 className="font-semibold">{title}</h2>
        <p className="text-xs text-ink2">{text}</p>
      </div>
      <p>
        <WordNumber
          label={`Days: ${title}`}
          value={days ?? kept.usual}
          min={kept.least}
          max={kept.most}
          onChange={(next) => onChange(next === kept.usual ? null : next)}
        />{" "}
        days
        {days === null ? (
          <span className="block text-xs text-ink3">as usual</span>
        ) : (
          <span className="block text-xs text-ink3">
            usually {kept.usual}{" "}
            <Button small look="quiet" onClick={() => onChange(null)}>
              As usual
            </Button>
          </span>
        )}
      </p>
      <p className="text-xs" aria-live="polite">
        {!freed && <span className="text-ink3">being counted…</span>}
        {freed?.number === 0 && <span className="text-ink3">nothing is older</span>}
        {freed !== undefined && freed.number > 0 && (
          <span className="text-ochre">
            frees {more}
            {plural(freed.number, "record")}, about {bytes(freed.size)}
          </span>
        )}
      </p>
    </li>
  );
}
