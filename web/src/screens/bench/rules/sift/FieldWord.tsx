import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";

interface FieldWordProps<T extends string> {
  options: readonly { value: T; label: string }[];
  field: T;
  name: string;
  onChange: (next: { field: T; name: string }) => void;
}

/** The field of a rule; a source's own field is named beside it. */
export function FieldWord<T extends string>({ options, field, name, onChange }: FieldWordProps<T>) {
  return (
    <>
      <WordSelect
        label="Field"
        value={field}
        options={options}
        onChange={(next) => onChange({ field: next, name })}
      />
      {field === "custom" && (
        <>
          {" "}
          <WordText
            label="Name of the field"
            value={name}
            known={[]}
            placeholder="its name"
            onChange={(next) => onChange({ field, name: next })}
          />
        </>
      )}
    </>
  );
}
