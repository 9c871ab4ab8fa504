import { useState } from "react";
import { keys } from "@/api/keys";
import { changeSources, opmlAddress, type SourceChange } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { plural } from "@/lib/format";
import { Button, buttonLook } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";

const DONE: Record<SourceChange, string> = {
  pause: "paused",
  resume: "resumed",
  label: "labelled",
  unlabel: "without the label",
  remove: "removed",
};

interface TogetherProps {
  blog: string;
  picked: ReadonlySet<string>;
  labels: readonly string[];
  onDone: () => void;
}

/** Actions for the selected sources. */
export function Together({ blog, picked, labels, onDone }: TogetherProps) {
  const tell = useTell();
  const [label, setLabel] = useState("");
  const changing = useChange(
    (change: SourceChange) => changeSources(blog, { keys: [...picked], change, label }),
    {
      refresh: [keys.sources(blog), keys.source(blog)],
      onDone: ({ changed }, change) => {
        tell(`${plural(changed, "source")} ${DONE[change]}.`);
        if (change === "remove") onDone();
      },
    },
  );
  return (
    <div className="border-b border-line2 bg-verd-wash px-5 py-1.5">
      <div className="flex flex-wrap items-center gap-2">
        {plural(picked.size, "source")} picked
        <Button small onClick={() => changing.mutate("pause")}>
          Pause
        </Button>
        <Button small onClick={() => changing.mutate("resume")}>
          Resume
        </Button>
        <input
          aria-label="Label"
          placeholder="label"
          list="labels-of-sources"
          maxLength={60}
          className={`${inputLook} !w-36 !py-0.5`}
          value={label}
          onChange={(event) => setLabel(event.target.value)}
        />
        <datalist id="labels-of-sources">
          {labels.map((label) => (
            <option key={label} value={label} />
          ))}
        </datalist>
        <Button small disabled={!label.trim()} onClick={() => changing.mutate("label")}>
          Add label
        </Button>
        <Button small disabled={!label.trim()} onClick={() => changing.mutate("unlabel")}>
          Take label off
        </Button>
        <a className={buttonLook("plain", true)} href={opmlAddress(blog, [...picked])} download>
          As OPML
        </a>
        <Confirm
          trigger={
            <Button small look="danger">
              Remove
            </Button>
          }
          title={`Remove ${plural(picked.size, "source")}?`}
          text="They are not read any more. Their items and the posts made from them stay."
          action="Remove"
          onConfirm={() => changing.mutate("remove")}
        />
        <Button small look="quiet" onClick={onDone}>
          Pick none
        </Button>
      </div>
      <FormError error={changing.error} />
    </div>
  );
}
