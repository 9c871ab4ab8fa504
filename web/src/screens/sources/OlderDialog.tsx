import { useState } from "react";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { countOlder, readOlder } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { moment, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

interface OlderDialogProps {
  blog: string;
  source: string;
  onClose: () => void;
}

/** Reads older pages of a source after counting them. */
export function OlderDialog({ blog, source, onClose }: OlderDialogProps) {
  const [floor, setFloor] = useState("");
  const [pattern, setPattern] = useState("");
  const counting = useChange(() => countOlder(blog, source, { floor, pattern }));
  const reading = useChange(() => readOlder(blog, source, { floor, pattern }), {
    refresh: [keys.source(blog, source)],
    onDone: onClose,
  });
  const expected = counting.data;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Older items"
      description="Feeds often name pages with their older entries (RFC 5005). They are read down to a day, and kept as captured items."
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          counting.mutate();
        }}
      >
        <Field label="Back to">
          <input
            type="date"
            className={inputLook}
            value={floor}
            required
            onChange={(event) => {
              setFloor(event.target.value);
              counting.reset();
            }}
          />
        </Field>
        <Field
          label="Address of the pages, if the feed names none"
          hint="With {page} where the number stands: https://a.example/feed?page={page}"
          error={faultAt(counting.error ?? reading.error, "pattern")}
        >
          <input
            className={inputLook}
            value={pattern}
            maxLength={2000}
            onChange={(event) => {
              setPattern(event.target.value);
              counting.reset();
            }}
          />
        </Field>
        {expected && (
          <p role="status">
            {expected.items > 0 ? (
              <>
                {expected.more ? "More than " : ""}
                {plural(expected.items, "item")} on {plural(expected.pages, "page")}
                {expected.oldest && `, the oldest of ${moment(expected.oldest)}`}. Campaigns decide them at
                their next run.
              </>
            ) : (
              `Nothing older was found. ${expected.why_ended}`
            )}
          </p>
        )}
        <FormError error={counting.error ?? reading.error} fields={["pattern"]} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" busy={counting.isPending}>
            Count them
          </Button>
          <Button
            look="primary"
            disabled={!expected?.items}
            busy={reading.isPending}
            onClick={() => reading.mutate()}
          >
            Read them
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
