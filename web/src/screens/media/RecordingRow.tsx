import { keys } from "@/api/keys";
import { type Recording, retryRecording, stopRecording } from "@/api/media";
import { useChange } from "@/api/useChange";
import { copyFault } from "@/lib/copy-words";
import { bytes, moment, plural } from "@/lib/format";
import { Button, buttonLook } from "@/ui/Button";

interface RecordingRowProps {
  blog: string;
  row: Recording;
  editor: boolean;
}

function stateWords(row: Recording): string {
  if (row.state === "kept") return `copied, ${bytes(row.size)}`;
  if (row.state === "waiting")
    return row.done ? `${bytes(row.done)}${row.size ? ` of ${bytes(row.size)}` : ""} copied` : "waits";
  const again = row.next_at ? `tried again ${moment(row.next_at)}` : "not tried again by itself";
  return `${copyFault(row.fault, row.why)}; ${again}`;
}

/** One film or sound with the state of its copy and its actions. */
export function RecordingRow({ blog, row, editor }: RecordingRowProps) {
  const refresh = [keys.recordings(blog)];
  const retrying = useChange(() => retryRecording(blog, row.id), { refresh });
  const stopping = useChange(() => stopRecording(blog, row.id), { refresh });
  return (
    <li className="flex items-center gap-3 border-t border-line2 px-4 py-2 first:border-0">
      <div className="min-w-0 flex-1">
        <p className="truncate font-mono text-xs">{row.url}</p>
        <p className={row.fault && row.state !== "kept" ? "text-xs text-ochre" : "text-xs text-ink3"}>
          {stateWords(row)} · {row.shown_by ? `in ${plural(row.shown_by, "post")}` : "in no post any more"}
        </p>
        {row.state === "waiting" && row.size > 0 && (
          <progress
            aria-label="Copied"
            className="mt-1 h-1.5 w-full accent-verd"
            value={row.done}
            max={row.size}
          />
        )}
      </div>
      {row.address && (
        <a className={buttonLook("quiet", true)} href={row.address} target="_blank" rel="noreferrer">
          Play
        </a>
      )}
      {editor && row.state === "waiting" && (
        <Button small busy={stopping.isPending} onClick={() => stopping.mutate()}>
          Stop
        </Button>
      )}
      {editor && (row.state === "failed" || row.state === "given_up") && (
        <Button small busy={retrying.isPending} onClick={() => retrying.mutate()}>
          Try again now
        </Button>
      )}
    </li>
  );
}
