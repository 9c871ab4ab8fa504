import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { keys } from "@/api/keys";
import { CloseButton } from "@/components/editing/CloseButton";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { SaveButtons } from "@/components/editing/SaveButtons";
import { useEdited } from "@/components/editing/useEdited";
import type { Version } from "@/lib/editing/document";
import { Field, inputLook } from "@/ui/Field";
import { FileButton } from "@/ui/FileButton";

/** In bytes. */
const LARGEST = 1_000_000;

export interface KeptValues {
  name: string;
  text: string;
}

/** A list or table as the server has it. */
export interface KeptList {
  key: string;
  version: Version<KeptValues>;
}

interface KeptFormProps {
  blog: string;
  /** Its key; empty for a new one. */
  listKey: string;
  begun: Version<KeptValues>;
  label: string;
  hint: string;
  what: "list" | "table";
  save: (values: KeptValues, begun: number) => Promise<KeptList>;
  onDone: () => void;
}

/** A form with a name and lines of text, for word lists and tables. */
export function KeptForm({ blog, listKey, begun, label, hint, what, save, onDone }: KeptFormProps) {
  const queries = useQueryClient();
  const latest = useRef(begun);
  latest.current = begun;
  const nameOf = (key: string) => `word ${what} ${blog}/${key}`;
  const edited = useEdited<KeptValues, KeptList>({
    document: nameOf(listKey),
    saved: begun,
    save: (values, from) => save(values, from),
    versionOf: ({ version }) => version,
    becomes: ({ key }) => (listKey ? null : nameOf(key)),
    fetchLatest: async () => {
      await queries.invalidateQueries({ queryKey: keys.blog(blog) });
      return latest.current;
    },
    refresh: [keys.blog(blog), keys.proof(blog)],
    onSaved: onDone,
  });
  const { now } = edited;
  const set = (values: Partial<KeptValues>) => edited.edit((before) => ({ ...before, ...values }));
  const isNew = !listKey;
  const [unnamed, setUnnamed] = useState(false);
  function saveNamed() {
    setUnnamed(!now.name.trim());
    if (now.name.trim()) edited.save();
  }
  const [fileFault, setFileFault] = useState("");

  /** Appends the lines of a file; its name becomes the name where there is none. */
  async function takeIn(file: File) {
    setFileFault("");
    if (file.size > LARGEST) {
      setFileFault(`${file.name} is larger than 1 MB. Give a shorter file.`);
      return;
    }
    const bytes = await file.arrayBuffer();
    let lines: string;
    try {
      lines = new TextDecoder("utf-8", { fatal: true }).decode(bytes).trim();
    } catch {
      setFileFault(`${file.name} is no text in UTF-8. Save it as such, then choose it again.`);
      return;
    }
    edited.edit(({ name, text }) => {
      const before = text.trimEnd();
      return {
        name: name || file.name.replace(/\.\w+$/, ""),
        text: before ? `${before}\n${lines}` : lines,
      };
    });
  }
  return (
    <form
      className="overflow-hidden rounded-[10px] border border-verd bg-sheet"
      onSubmit={(event) => {
        event.preventDefault();
        saveNamed();
      }}
    >
      <EditGuard edited={edited} />
      <EditNotices edited={edited} what={`the ${what}`} />
      <div className="space-y-3 p-4">
        <Field label="Name" error={unnamed && !now.name.trim() ? `Give the ${what} a name.` : undefined}>
          <input
            className={inputLook}
            maxLength={80}
            value={now.name}
            onChange={(event) => set({ name: event.target.value })}
          />
        </Field>
        <Field label={label} hint={hint}>
          <textarea
            rows={6}
            className={`${inputLook} font-mono text-xs`}
            value={now.text}
            onChange={(event) => set({ text: event.target.value })}
          />
        </Field>
        <div className="flex items-center gap-3">
          <FileButton label={`File for the ${what}`} accept=".txt,.csv,text/plain,text/csv" onFile={takeIn}>
            Add from a file
          </FileButton>
          {fileFault && (
            <p role="alert" className="font-medium text-madder">
              {fileFault}
            </p>
          )}
        </div>
        <div className="flex items-center justify-end gap-2">
          <CloseButton edited={edited} onClose={onDone} />
          <SaveButtons
            edited={edited}
            what={`the ${what}`}
            label={`Keep the ${what}`}
            onSave={saveNamed}
            isNew={isNew && edited.changed}
          />
        </div>
      </div>
    </form>
  );
}
