import { hasFaultIn, ProblemError } from "@/api/client";
import { ErrorNote } from "@/components/ErrorNote";
import { bothSides } from "@/lib/editing/both-sides";
import { moment } from "@/lib/format";
import { Button } from "@/ui/Button";
import { BothSides } from "./BothSides";
import type { Edited } from "./useEdited";

interface EditNoticesProps<T> {
  edited: Edited<T>;
  /** What is edited: “the post”. */
  what: string;
  /** Who has saved meanwhile, where the server names them. */
  who?: string;
  /** Fields that show their faults themselves. */
  fields?: readonly string[];
}

const CONFLICT = 409;

/** What a person must know about edits: an earlier draft, another person's save, a server that does not answer. */
export function EditNotices<T>({ edited, what, who, fields = [] }: EditNoticesProps<T>) {
  const { conflict, restored, saving, error } = edited;
  // The server names who was first.
  const told = error instanceof ProblemError && error.status === CONFLICT ? error.message : "";
  const calm =
    "flex shrink-0 flex-wrap items-center gap-3 border-b border-plum/30 bg-plum-wash px-4 py-2 text-plum";
  return (
    <>
      {restored.at && (
        <div role="status" className={calm}>
          <span>
            Your edits of {moment(restored.at)} were not saved. They are back, from a draft in this browser.
          </span>
          <span className="ml-auto flex gap-2">
            <Button small onClick={restored.accept}>
              Go on with them
            </Button>
            <Button small onClick={edited.giveUp}>
              Discard these edits
            </Button>
          </span>
        </div>
      )}
      {saving.state === "waiting" && (
        <div
          role="status"
          className="flex shrink-0 items-center gap-3 border-b border-line bg-ochre-wash px-4 py-2 text-ochre"
        >
          <span>
            The server does not answer, so {what} is not saved yet.{" "}
            {edited.keepsDrafts && "Your edits are kept in this browser. "}
            It is tried again in {saving.seconds} seconds.
          </span>
          <Button small className="ml-auto" onClick={() => edited.save()}>
            Try now
          </Button>
        </div>
      )}
      {conflict.theirs ? (
        <div role="alert" className="shrink-0 border-b border-ochre/40 bg-ochre-wash px-4 py-2">
          <p className="font-semibold text-ochre">
            {told || `${who || "Somebody"} has saved ${what} while you were editing it.`}
          </p>
          <BothSides places={bothSides(edited.saved, conflict.theirs.value, edited.now)} />
          <div className="mt-1.5 flex flex-wrap gap-2">
            <Button small look="primary" onClick={conflict.putOnTop}>
              Put my edits on top of theirs
            </Button>
            <Button small onClick={conflict.takeTheirs}>
              Take theirs
            </Button>
            <Button small onClick={conflict.keepMine}>
              Keep mine as it is
            </Button>
          </div>
        </div>
      ) : (
        edited.error && !hasFaultIn(edited.error, fields) && <ErrorNote error={edited.error} />
      )}
      {conflict.clashes && (
        <div role="status" className={calm}>
          <span className="min-w-0">
            {conflict.clashes.length === 0
              ? "Your edits stand on top of theirs. Nothing was changed by both."
              : `Your edits stand on top of theirs. Both of you changed: ${conflict.clashes.join("; ")}. Yours stand there now.`}
          </span>
          <Button small className="ml-auto" onClick={conflict.acceptClashes}>
            OK
          </Button>
        </div>
      )}
    </>
  );
}
