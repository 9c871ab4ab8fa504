import clsx from "clsx";
import type { Source } from "@/api/sources";
import { moment } from "@/lib/format";
import { HEALTH, healthWords } from "@/lib/health";
import { Lozenge } from "@/ui/Lozenge";

/** The health of a source with the remedy; otherwise its next reading. */
export function SourceHealth({ source }: { source: Source }) {
  const words = healthWords(source);
  const { mark, name } = HEALTH[source.health];
  return (
    <p
      role="status"
      className={clsx(
        "mb-4 flex items-start gap-2.5 rounded-[10px] border px-4 py-2.5",
        mark === "refused"
          ? "border-madder bg-madder-wash text-madder"
          : mark === "hold"
            ? "border-ochre-mark bg-ochre-wash text-ochre"
            : "border-line bg-sheet text-ink2",
      )}
    >
      <span className="mt-1">
        <Lozenge kind={mark} label={name} />
      </span>
      <span>
        {words || (source.health === "unread" ? "Not read yet." : "All is well.")}
        {!words && source.next_read_at && (
          <span className="text-ink3"> A schedule reads it from {moment(source.next_read_at)} on.</span>
        )}
      </span>
    </p>
  );
}
