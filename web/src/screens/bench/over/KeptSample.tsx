import { PencilLine, Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import { keys } from "@/api/keys";
import { removeSample, renameSample, type SampleRow } from "@/api/proofs";
import { useToldChange } from "@/components/useToldChange";
import { ago, plural } from "@/lib/format";
import { Confirm } from "@/ui/Confirm";
import { NameInput } from "@/ui/NameInput";
import { useFocusAfter } from "@/ui/useFocusAfter";

interface KeptSampleProps {
  blog: string;
  sample: SampleRow;
  chosen: boolean;
  onChoose: () => void;
  onRemoved: () => void;
}

const LONGEST_NAME = 300;
const BUTTON = "inline-flex size-6 shrink-0 items-center justify-center text-ink3 hover:text-ink";

/** A stored sample: chosen, renamed, removed. */
export function KeptSample({ blog, sample, chosen, onChoose, onRemoved }: KeptSampleProps) {
  const [naming, setNaming] = useState(false);
  const renames = useRef<HTMLButtonElement>(null);
  const focusButton = useFocusAfter(renames);
  const refresh = [keys.samples(blog)];
  const renaming = useToldChange((name: string) => renameSample(blog, sample.id, name), { refresh });
  const removing = useToldChange(() => removeSample(blog, sample.id), { refresh, onDone: onRemoved });
  return (
    <li className="flex items-center gap-1">
      {naming ? (
        <NameInput
          label={`Name of ${sample.name}`}
          value={sample.name}
          longest={LONGEST_NAME}
          onChange={(name) => name && renaming.mutate(name)}
          onDone={(byKey) => {
            setNaming(false);
            if (byKey) focusButton();
          }}
        />
      ) : (
        <button
          type="button"
          aria-pressed={chosen}
          className="h-6 min-w-0 flex-1 truncate text-left hover:text-verd aria-pressed:font-semibold aria-pressed:text-verd"
          onClick={onChoose}
        >
          {sample.name} · {plural(sample.items, "item")} · {ago(sample.made_at)}
        </button>
      )}
      <button
        ref={renames}
        type="button"
        aria-label={`Rename ${sample.name}`}
        title="Rename"
        className={BUTTON}
        onClick={() => setNaming(true)}
      >
        <PencilLine size={12} />
      </button>
      <Confirm
        trigger={
          <button type="button" aria-label={`Remove ${sample.name}`} title="Remove" className={BUTTON}>
            <Trash2 size={12} />
          </button>
        }
        title={`Remove the sample “${sample.name}”?`}
        text="Its items are lost. Sources and posts stay as they are."
        action="Remove sample"
        onConfirm={() => removing.mutate()}
      />
    </li>
  );
}
