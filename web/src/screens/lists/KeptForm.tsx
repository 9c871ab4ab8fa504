import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { keys } from "@/api/keys";
import { Button } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";
import { FileButton } from "@/ui/FileButton";

/** In bytes. */
const LARGEST = 1_000_000;

export interface KeptValues {
  name: string;
  text: string;
}

interface KeptFormProps {
  blog: string;
  begun: KeptValues;
  label: string;
  hint: string;
  what: "list" | "table";
  save: (values: KeptValues) => Promise<unknown>;
  onDone: () => void;
}

/** A form with a name and lines of text, for word lists and tables. */
export function KeptForm({ blog, begun, label, hint, what, save, onDone }: KeptFormProps) {
  const queries = useQueryClient();
  const form = useForm<KeptValues>({ defaultValues: begun });
  const saving = useMutation({
    mutationFn: save,
    onSuccess: () => {
      queries.invalidateQueries({ queryKey: keys.blog(blog) });
      queries.invalidateQueries({ queryKey: keys.proof(blog) });
      onDone();
    },
  });
  const { errors } = form.formState;
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
    const before = form.getValues("text").trimEnd();
    form.setValue("text", before ? `${before}\n${lines}` : lines, { shouldDirty: true });
    if (!form.getValues("name")) form.setValue("name", file.name.replace(/\.\w+$/, ""));
  }
  return (
    <form
      className="space-y-3 rounded-[10px] border border-verd bg-sheet p-4"
      onSubmit={form.handleSubmit((values) => saving.mutate(values))}
    >
      <Field label="Name" error={errors.name?.message}>
        <input
          {...form.register("name", { required: `Give the ${what} a name.` })}
          className={inputLook}
          maxLength={80}
        />
      </Field>
      <Field label={label} hint={hint}>
        <textarea {...form.register("text")} rows={6} className={`${inputLook} font-mono text-xs`} />
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
      {saving.error && (
        <p role="alert" className="font-medium text-madder">
          {saving.error.message}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onDone}>Cancel</Button>
        <Button type="submit" look="primary" busy={saving.isPending}>
          Keep the {what}
        </Button>
      </div>
    </form>
  );
}
