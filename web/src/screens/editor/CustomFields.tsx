import type { Fault } from "@/api/client";
import type { PostValues } from "@/api/posts";
import { Field, inputLook } from "@/ui/Field";

type Value = PostValues["fields"][number];

interface CustomFieldsProps {
  fields: readonly Value[];
  faults: readonly Fault[];
  onChange: (fields: Value[]) => void;
}

/** The custom fields of a post. */
export function CustomFields({ fields, faults, onChange }: CustomFieldsProps) {
  if (!fields.length) return null;
  const put = (place: number, value: Value["value"]) =>
    onChange(fields.map((field, at) => (at === place ? { ...field, value } : field)));
  return (
    <fieldset className="space-y-3">
      <legend className="mb-1 font-semibold">Fields of the blog</legend>
      {fields.map((field, place) => (
        <Field
          key={field.name}
          label={field.label}
          error={faults.find(({ path }) => path === `fields.${place}`)?.message}
        >
          {field.type === "yes_no" ? (
            <input
              type="checkbox"
              className="accent-verd"
              checked={field.value === true}
              onChange={({ target }) => put(place, target.checked)}
            />
          ) : (
            <input
              className={inputLook}
              type={field.type === "number" ? "number" : "text"}
              step="any"
              value={String(field.value)}
              onChange={({ target }) =>
                put(place, field.type === "number" ? Number(target.value) : target.value)
              }
            />
          )}
        </Field>
      ))}
    </fieldset>
  );
}
