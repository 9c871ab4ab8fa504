import { Field, inputLook } from "@/ui/Field";
import { MappingRows } from "./MappingRows";
import { choiceWords, type FormField } from "./schema";

interface PlatformFieldProps {
  field: FormField;
  value: unknown;
  error?: string | undefined;
  onChange: (value: unknown) => void;
  /** The row that the next picked value is written into. */
  aimed?: string | undefined;
  onAim?: ((name: string) => void) | undefined;
}

/** One parameter of a platform, by its kind. */
export function PlatformField({ field, value, error, onChange, aimed, onAim }: PlatformFieldProps) {
  if (field.kind === "yes")
    return (
      <label className="flex items-start gap-2 self-end pb-1.5">
        <input
          type="checkbox"
          className="mt-1 accent-verd"
          checked={value === true}
          onChange={(event) => onChange(event.target.checked)}
        />
        <span>
          <span className="block font-semibold">{field.label}</span>
          <span className="block text-xs text-ink3">{field.hint}</span>
        </span>
      </label>
    );
  if (field.kind === "mapping")
    return (
      <MappingRows
        label={field.label}
        hint={field.hint}
        error={error}
        value={(value ?? {}) as Record<string, string>}
        onChange={onChange}
        aimed={aimed}
        onAim={onAim}
      />
    );
  return (
    <Field label={field.label} hint={field.hint} error={error}>
      {field.kind === "choice" ? (
        <select
          className={inputLook}
          value={String(value ?? "")}
          onChange={(event) => onChange(event.target.value)}
        >
          {field.choices.map((choice) => (
            <option key={choice} value={choice}>
              {choiceWords(choice)}
            </option>
          ))}
        </select>
      ) : field.kind === "lines" ? (
        <textarea
          rows={3}
          spellCheck={false}
          className={`${inputLook} font-mono text-xs`}
          value={String(value ?? "")}
          maxLength={field.longest}
          aria-invalid={Boolean(error)}
          onChange={(event) => onChange(event.target.value)}
        />
      ) : field.kind === "texts" ? (
        <input
          className={inputLook}
          value={(value as string[] | null)?.join(", ") ?? ""}
          aria-invalid={Boolean(error)}
          onChange={(event) =>
            onChange(event.target.value ? event.target.value.split(",").map((one) => one.trimStart()) : [])
          }
        />
      ) : field.kind === "number" ? (
        <input
          type="number"
          min={field.least}
          max={field.most}
          className={inputLook}
          value={Number(value ?? 0)}
          aria-invalid={Boolean(error)}
          onChange={(event) => onChange(Number(event.target.value))}
        />
      ) : (
        <input
          type={field.kind === "day" ? "date" : "text"}
          className={inputLook}
          value={String(value ?? "")}
          maxLength={field.longest}
          aria-invalid={Boolean(error)}
          onChange={(event) =>
            onChange(field.kind === "day" && !event.target.value ? null : event.target.value)
          }
        />
      )}
    </Field>
  );
}
