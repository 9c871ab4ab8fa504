import type { CustomField } from "@/api/campaigns";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import { TemplateField } from "../TemplateField";

const TYPES = [
  { value: "text", label: "a text" },
  { value: "number", label: "a number" },
  { value: "yes_no", label: "yes or no" },
  { value: "date", label: "a date" },
  { value: "picture", label: "a picture" },
  { value: "link", label: "a link" },
  { value: "rich_text", label: "rich text" },
] as const;

interface FieldSentenceProps {
  field: CustomField;
  fault: string | undefined;
  onChange: (field: CustomField) => void;
}

/** A custom field: its name, type and template. */
export function FieldSentence({ field, fault, onChange }: FieldSentenceProps) {
  return (
    <>
      <span className="font-medium">Field</span>{" "}
      <WordText
        label="Name of the field"
        value={field.name}
        known={["rating", "price", "brightness", "place"]}
        placeholder="name"
        onChange={(name) => onChange({ ...field, name: name.toLowerCase().replace(/[^a-z0-9_]/g, "_") })}
      />
      , shown as{" "}
      <WordText
        label="Label of the field"
        value={field.label}
        known={[]}
        placeholder="its name"
        onChange={(label) => onChange({ ...field, label })}
      />
      , is{" "}
      <WordSelect
        label="Type of the field"
        value={field.type}
        options={TYPES}
        onChange={(type) => onChange({ ...field, type })}
      />
      <TemplateField
        label={`Value of ${field.name}`}
        value={field.value}
        rows={1}
        fault={fault}
        onChange={(value) => onChange({ ...field, value })}
      />
    </>
  );
}
