import { WordSelect } from "@/ui/WordSelect";

const PARTS = [
  { value: "body", label: "before the templates" },
  { value: "title", label: "on the finished title" },
  { value: "excerpt", label: "on the finished excerpt" },
  { value: "description", label: "on the finished description" },
];

interface OfWordProps {
  of: string;
  fields: readonly string[];
  onChange: (of: string) => void;
}

/** When a step works: on the item before the templates, or on a text as its template has made it. */
export function OfWord({ of, fields, onChange }: OfWordProps) {
  const own = fields.map((name) => ({ value: `fields.${name}`, label: `on the field ${name}` }));
  return (
    <span className="mt-1 block text-xs text-ink3">
      Works <WordSelect label="Works on" value={of} options={[...PARTS, ...own]} onChange={onChange} />
    </span>
  );
}
