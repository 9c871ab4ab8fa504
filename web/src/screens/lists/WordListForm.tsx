import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { addWordList, changeWordList, type WordListRow } from "@/api/blogs";
import { Button } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";

interface WordListFormProps {
  blog: string;
  list: WordListRow | null;
  onDone: () => void;
}

interface Form {
  name: string;
  words: string;
}

function termsIn(text: string): string[] {
  return text
    .split(/[\n,;]/)
    .map((term) => term.trim())
    .filter(Boolean);
}

export function WordListForm({ blog, list, onDone }: WordListFormProps) {
  const queries = useQueryClient();
  const form = useForm<Form>({
    defaultValues: { name: list?.name ?? "", words: list?.words.join("\n") ?? "" },
  });
  const saving = useMutation({
    mutationFn: ({ name, words }: Form) => {
      const body = { name, words: termsIn(words) };
      return list ? changeWordList(blog, list.key, body) : addWordList(blog, body);
    },
    onSuccess: () => {
      queries.invalidateQueries({ queryKey: ["blog", blog] });
      queries.invalidateQueries({ queryKey: ["proof", blog] });
      onDone();
    },
  });
  const { errors } = form.formState;
  return (
    <form
      className="space-y-3 rounded-[10px] border border-verd bg-sheet p-4"
      onSubmit={form.handleSubmit((values) => saving.mutate(values))}
    >
      <Field label="Name" error={errors.name?.message}>
        <input
          {...form.register("name", { required: "Give the list a name." })}
          className={inputLook}
          maxLength={80}
        />
      </Field>
      <Field label="Terms" hint="One a line, or parted by commas. comet* stands for all words that begin so.">
        <textarea {...form.register("words")} rows={6} className={`${inputLook} font-mono text-xs`} />
      </Field>
      {saving.error && (
        <p role="alert" className="font-medium text-madder">
          {saving.error.message}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onDone}>Cancel</Button>
        <Button type="submit" look="primary" busy={saving.isPending}>
          Keep the list
        </Button>
      </div>
    </form>
  );
}
