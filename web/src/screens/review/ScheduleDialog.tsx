import { useState } from "react";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

interface ScheduleDialogProps {
  number: number;
  onClose: () => void;
  /** ISO 8601. */
  onChosen: (date: string) => void;
}

/** Tomorrow at eight, for the browser's input. */
function tomorrow(): string {
  const date = new Date();
  date.setDate(date.getDate() + 1);
  date.setHours(8, 0, 0, 0);
  return new Date(date.getTime() - date.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}

/** Asks when posts are to go out. */
export function ScheduleDialog({ number, onClose, onChosen }: ScheduleDialogProps) {
  const [at, setAt] = useState(tomorrow);
  return (
    <Dialog open onOpenChange={onClose} title={`Schedule ${plural(number, "post")}`}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (at) onChosen(new Date(at).toISOString());
        }}
      >
        <Field label="Goes out" hint="By the clock of this computer.">
          <input
            type="datetime-local"
            className={inputLook}
            value={at}
            onChange={(event) => setAt(event.target.value)}
          />
        </Field>
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" disabled={!at}>
            Schedule
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
